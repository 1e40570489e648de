// Files of a large catalogue: CSV and RSS, in MB a second, beside a plain copy of the same bytes in the same run.
import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { writeCatalogue } from "./catalogue.mjs";
import { lexicant, measureNode, row } from "./measure.mjs";

const ROWS = Number(process.env.ROWS ?? 100_000);

const copy = `
import { createReadStream, createWriteStream, readdirSync } from "node:fs";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
const [from, to] = process.argv.slice(2);
for (const name of readdirSync(from)) await pipeline(createReadStream(join(from, name)), createWriteStream(join(to, "copy-" + name)));
`;

export const run = async (folder) => {
  const shop = join(folder, "shop");
  const file = join(folder, "shop-export.csv");
  lexicant(["demo", shop, "--quiet"]);
  await writeCatalogue(file, ROWS);
  row(`import ${ROWS.toLocaleString("en")} products`, lexicant(["-C", shop, "import", file, "--quiet"]));
  const script = join(folder, "copy.mjs");
  writeFileSync(script, copy);
  for (const channel of ["chatterquay", "lanternlist", "gavelstead", "merrowgate"]) {
    const built = lexicant(["-C", shop, "build", channel]);
    const out = join(shop, "out", channel);
    const bytes = readdirSync(out).reduce((sum, name) => sum + statSync(join(out, name)).size, 0);
    const { counts } = JSON.parse(readFileSync(join(out, "build.json"), "utf8"));
    const megabytes = bytes / 1e6;
    const rate = ({ seconds }) => `${(megabytes / seconds).toFixed(1)} MB/s`;
    row(
      `build ${channel}: ${counts.written.toLocaleString("en")} listings, ${megabytes.toFixed(0)} MB`,
      built,
      `${rate(built)}, ${Math.round(ROWS / built.seconds).toLocaleString("en")} products/s`,
    );
    const copied = measureNode(script, [out, folder]);
    row("  the same bytes copied", copied, rate(copied));
  }
};
