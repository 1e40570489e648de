/** Says what a channel's fills to begin with ask of a shop: as a clerk whose goods are all as the questions suppose. */
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";

const written = /^( *# .*: where this is true of all your goods, write (.+)\n *)([\w-]+): .*$/gm;
const hidden = /^( *# .*: take the # away where this is true of all your goods\n *)# /gm;

/** Answers the questions of `fills.yaml`, all with yes. */
export function sayFacts(shop: string, channel: string): void {
  const path = join(shop, "channels", channel, "fills.yaml");
  const asked = readFileSync(path, "utf8");
  writeFileSync(
    path,
    asked
      .replaceAll(written, (_, before: string, fill: string, code: string) => `${before}${code}: '${fill}'`)
      .replaceAll(hidden, "$1"),
  );
}
