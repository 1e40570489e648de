// From a fresh clone to built files: the demo shop in a new folder, imported, checked and built.
import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { join } from "node:path";
import { build, install, root } from "./setup.mjs";

install();
build();

const freeFolder = (count = 1) => {
  const name = count === 1 ? "demo-shop" : `demo-shop-${count}`;
  return existsSync(join(root, name)) ? freeFolder(count + 1) : name;
};

const folder = freeFolder();
const lexicant = (args) => {
  process.stdout.write(`\n$ lexicant ${args.join(" ")}\n`);
  const { status } = spawnSync(process.execPath, [join(root, "dist", "main.js"), ...args, "--no-pager"], {
    cwd: root,
    stdio: "inherit",
  });
  // 1 says that the data has findings, which is what the demo is there to show.
  if (status !== 0 && status !== 1) process.exit(status ?? 3);
};

lexicant(["demo", folder]);
lexicant(["-C", folder, "list", "--limit", "5"]);
lexicant(["-C", folder, "check", "lanternlist"]);
lexicant(["-C", folder, "fills", "merrowgate", "Beekeeping > Beekeeper Clothing"]);
lexicant(["-C", folder, "try", '"{brand} {name}{, color}{, size}"', "--sku", "BC-1301-WHITE-M"]);
lexicant(["-C", folder, "readiness"]);
lexicant(["-C", folder, "explain", "BC-5203", "merrowgate", "boxed_weight"]);
lexicant(["-C", folder, "gaps", "merrowgate", "gavelstead"]);
lexicant(["-C", folder, "build"]);
process.stdout.write(
  `\nWhat came out: ${folder}/out/lanternlist holds the feed (XML) and the same rows as a table (TSV), and build.json names each\n` +
    `product that is not in them, with the reason. What to do next:\n` +
    `  - open ${folder}/channels/lanternlist/fills.yaml, change a fill, and run: node dist/main.js -C ${folder} check\n` +
    `  - see what each of the other four channels still misses: node dist/main.js -C ${folder} check\n` +
    `  - fill in ${folder}/out/gaps/merrowgate-gavelstead.xlsx, and: node dist/main.js -C ${folder} import out/gaps/merrowgate-gavelstead.xlsx\n` +
    `  - see where a value came from: node dist/main.js -C ${folder} show BC-1301-WHITE-M\n` +
    `  - begin with your own file: README.md, "A first session"\n`,
);
