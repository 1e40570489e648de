// The slice end to end: 100,000 rows imported into a workspace like the demo's, then checked and built.
import { readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { writeCatalogue } from "./catalogue.mjs";
import { lexicant, row } from "./measure.mjs";

const ROWS = Number(process.env.ROWS ?? 100_000);

export const run = async (folder) => {
  const shop = join(folder, "shop");
  const file = join(folder, "shop-export.csv");
  await writeCatalogue(file, ROWS);
  lexicant(["demo", shop, "--empty"]);
  // Two of the demo's fills read what only its other files bring.
  const fills = join(shop, "channels", "lanternlist", "fills.yaml");
  const lines = readFileSync(fills, "utf8").split("\n");
  writeFileSync(fills, lines.filter((line) => !/latin_name|sowing_/.test(line)).join("\n"));
  const rate = ({ seconds }) => `${Math.round(ROWS / seconds).toLocaleString("en")} rows/s`;
  const imported = lexicant(["-C", shop, "import", file]);
  row(
    `import ${ROWS.toLocaleString("en")} rows (${Math.round(statSync(file).size / 1e6)} MB)`,
    imported,
    rate(imported),
  );
  const again = lexicant(["-C", shop, "import", file]);
  row("import the same again", again, rate(again));
  const checked = lexicant(["-C", shop, "check", "lanternlist"]);
  row("check", checked, rate(checked));
  const built = lexicant(["-C", shop, "build", "lanternlist"]);
  row("build", built, rate(built));
};
