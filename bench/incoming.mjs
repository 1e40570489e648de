// Two shops with the truth about them, and deliveries with planted faults: what becomes of each fault.
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { spawnSync } from "node:child_process";
import { deliveries, shops } from "./incoming/shops.mjs";

const main = new URL("../dist/main.js", import.meta.url).pathname;

const lexicant = (folder, ...args) => {
  const ran = spawnSync(process.execPath, [main, ...args], {
    cwd: folder,
    encoding: "utf8",
    maxBuffer: 1 << 28,
    env: { ...process.env, NO_COLOR: "1" },
  });
  if (ran.status === 3) throw new Error(ran.stderr);
  return ran;
};

const jsonLines = (text) =>
  text
    .split("\n")
    .filter((line) => line.startsWith("{"))
    .map((line) => JSON.parse(line));

/** What became of a fault: `right`, `refused` (told, and nothing wrong stands there), `wrong` (and told), `silent`, `lost`. */
export const outcome = (fault, product, findings) => {
  const told = findings.some(
    ({ place, product: sku, severity }) =>
      severity !== undefined &&
      (sku === fault.sku ||
        (place?.row !== undefined && fault.rows.includes(place.row) && place.file === fault.file)),
  );
  if (fault.gone === true)
    return product === undefined
      ? told || fault.quiet === true
        ? "right"
        : "lost"
      : told
        ? "wrong"
        : "silent";
  const value = product?.[fault.attribute];
  const shown = Array.isArray(value) ? value.join("|") : (value ?? "");
  if (fault.right.includes(shown)) return told || fault.quiet === true ? "right" : "untold";
  if (fault.refused.includes(shown)) return told ? "refused" : "lost";
  return told ? "wrong" : "silent";
};

export const run = async (folder) => {
  const totals = { right: 0, refused: 0, wrong: 0, silent: 0, lost: 0, untold: 0 };
  const byKind = new Map();
  for (const shop of shops) {
    const home = join(folder, shop.name);
    mkdirSync(join(home, "sources"), { recursive: true });
    writeFileSync(
      join(home, "lexicant.yaml"),
      `shop: ${shop.name}\nlanguage: en\ncurrency: ${shop.currency}\nlayers: [base, late]\n`,
    );
    writeFileSync(join(home, "sources/base.yaml"), shop.baseSource);
    writeFileSync(join(home, "base.csv"), shop.baseFile);
    lexicant(home, "import", "base.csv");
    for (const delivery of deliveries(shop)) {
      writeFileSync(join(home, `sources/${delivery.source}.yaml`), delivery.yaml);
      writeFileSync(join(home, delivery.file), delivery.content);
      const ran = lexicant(home, "import", delivery.file, "--source", delivery.source, "--json");
      const findings = jsonLines(ran.stdout);
      const products = new Map(
        jsonLines(lexicant(home, "list", "--json").stdout).map((one) => [
          one.sku,
          { sku: one.sku, ...one.values },
        ]),
      );
      for (const fault of delivery.faults) {
        const found = outcome(fault, products.get(fault.sku), findings);
        totals[found]++;
        const counts = byKind.get(fault.kind) ?? {};
        byKind.set(fault.kind, { ...counts, [found]: (counts[found] ?? 0) + 1 });
        if (["wrong", "silent", "lost", "untold"].includes(found))
          process.stdout.write(
            `  ${found}: ${shop.name} ${fault.kind} ${fault.sku} ${fault.attribute ?? ""}: ${JSON.stringify(products.get(fault.sku)?.[fault.attribute])}, should be ${JSON.stringify(fault.right)}\n`,
          );
      }
      lexicant(home, "undo");
    }
  }
  for (const [kind, counts] of byKind)
    process.stdout.write(
      `${kind.padEnd(44)} ${Object.entries(counts)
        .map(([key, count]) => `${count} ${key}`)
        .join(", ")}\n`,
    );
  const all = Object.values(totals).reduce((sum, one) => sum + one, 0);
  process.stdout.write(
    `${all} planted faults of ${byKind.size} kinds: settled right ${totals.right} (${((totals.right / all) * 100).toFixed(1)} %), refused and told ${totals.refused}, ` +
      `wrong though told ${totals.wrong}, wrong in silence ${totals.silent}, lost ${totals.lost}, right and untold ${totals.untold}\n`,
  );
};
