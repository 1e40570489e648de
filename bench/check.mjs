// Checked listings a second over a large catalogue: one channel, and all channels in one pass; then the commands beside it.
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { writeCatalogue } from "./catalogue.mjs";
import { lexicant, row } from "./measure.mjs";

const ROWS = Number(process.env.ROWS ?? 100_000);

const lastLine = ({ stdout }) => stdout.trimEnd().split("\n").at(-1) ?? "";

export const run = async (folder) => {
  const shop = join(folder, "shop");
  const file = join(folder, "shop-export.csv");
  // The demo's fills also read what its other files bring: the catalogue is the demo's, grown.
  lexicant(["demo", shop, "--quiet"]);
  await writeCatalogue(file, ROWS);
  const imported = lexicant(["-C", shop, "import", file, "--quiet"]);
  row(`import ${ROWS.toLocaleString("en")} products`, imported);
  const storefront = join(shop, "channels", "storefront");
  lexicant(["-C", shop, "channels", "add", "storefront"]);
  mkdirSync(storefront, { recursive: true });
  lexicant(["-C", shop, "place", "storefront", "--accept-above", "10"]);
  const channels = ["lanternlist", "merrowgate", "gavelstead", "fjordhandel", "chatterquay", "storefront"];
  const rate = ({ seconds }, times) =>
    `${Math.round((ROWS * times) / seconds).toLocaleString("en")} listings/s`;
  for (const channel of ["lanternlist", "merrowgate"]) {
    const one = lexicant(["-C", shop, "check", channel, "--code", "check-crashed"]);
    row(`check ${channel}`, one, rate(one, 1));
  }
  const all = lexicant(["-C", shop, "check", ...channels, "--code", "check-crashed"]);
  row(`check all ${channels.length} in one pass`, all, rate(all, channels.length));
  const readiness = lexicant(["-C", shop, "readiness", "merrowgate"]);
  row("readiness merrowgate", readiness, rate(readiness, 1));
  writeFileSync(join(folder, "last"), lastLine(readiness));
};
