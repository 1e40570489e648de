// One table of ratios: whole commands beside what an engineer would write instead, in turn, so that a slow hour is slow for
// all. ROWS and RUNS say how much; only what ONLY names (by part of its title) is run, where it is given.
import { spawnSync } from "node:child_process";
import {
  copyFileSync,
  cpSync,
  mkdirSync,
  openSync,
  closeSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { devNull } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import Database from "better-sqlite3";
import { parse, stringify } from "yaml";
import { writeCatalogue } from "./catalogue.mjs";
import { lexicant, measureNode } from "./measure.mjs";
import { millerArguments } from "./rivals/miller.mjs";

const ROWS = Number(process.env.ROWS ?? 100_000);
const RUNS = Number(process.env.RUNS ?? 3);
const ONLY = process.env.ONLY ?? "";
const THREADS = "2";

const channels = ["lanternlist", "merrowgate", "gavelstead", "fjordhandel", "chatterquay", "storefront"];
const definitions = fileURLToPath(new URL("../definitions/", import.meta.url));
const duckdb = fileURLToPath(new URL("rivals/duckdb.mjs", import.meta.url));

const SQLITE = "sqlite3";
const MILLER = "mlr";
const BY_SQLITE = "sqlite3 .import and index";
const BY_DUCKDB = "DuckDB's script";
const BUILT = "build lanternlist, TSV, again";
const EMPTY = "an empty program";

/** One line of the table. */
const step = (title, measure, against = "") => ({ title, measure, against });

const median = (numbers) => [...numbers].sort((a, b) => a - b)[numbers.length >> 1];

const isThere = (program) => spawnSync(program, ["--version"]).error === undefined;

/** Another program, with its seconds; its memory is not known. */
const timed = (program, args, output) => {
  const out = openSync(output ?? devNull, "w");
  const start = performance.now();
  const { status, stderr } = spawnSync(program, args, { stdio: ["ignore", out, "pipe"], encoding: "utf8" });
  closeSync(out);
  if (status !== 0) throw new Error(`${program} ended with ${status}: ${stderr}`);
  return { seconds: (performance.now() - start) / 1000, peakMegabytes: NaN };
};

/** The demo's workspace with the catalogue grown, and Lanternlist as TSV alone beside it. */
const workspaceIn = (folder, file) => {
  const shop = join(folder, "shop");
  lexicant(["demo", shop, "--quiet"]);
  lexicant(["-C", shop, "import", file, "--quiet"]);
  lexicant(["-C", shop, "channels", "add", "storefront"]);
  mkdirSync(join(shop, "channels", "storefront"), { recursive: true });
  lexicant(["-C", shop, "place", "storefront", "--accept-above", "10"]);
  const table = join(folder, "table");
  cpSync(shop, table, { recursive: true });
  const own = join(table, "definitions", "lanternlist");
  cpSync(join(definitions, "lanternlist"), own, { recursive: true });
  const definition = parse(readFileSync(join(own, "definition.yaml"), "utf8"));
  definition.layouts = definition.layouts.filter(({ format }) => format === "tsv");
  writeFileSync(join(own, "definition.yaml"), stringify(definition, { aliasDuplicateObjects: false }));
  return { shop, table };
};

export const run = async (folder) => {
  const [first, second] = ["first", "second"].map((name) => {
    mkdirSync(join(folder, name));
    return join(folder, name, "shop-export.csv");
  });
  await writeCatalogue(first, ROWS);
  await writeCatalogue(second, ROWS, (goods, number) => number % 100 === 0 && (goods.Price = "£1.23"));
  const { shop, table } = workspaceIn(folder, first);
  const placements = join(folder, "placements.csv");
  const rows = readFileSync(join(shop, "channels", "lanternlist", "placements.csv"), "utf8").split("\n");
  writeFileSync(placements, rows.filter((row) => !row.startsWith("#")).join("\n"));
  const fresh = () => {
    const own = join(folder, "fresh");
    rmSync(own, { recursive: true, force: true });
    lexicant(["demo", own, "--empty", "--quiet"]);
    return own;
  };
  const built = (own, ...args) => lexicant(["-C", own, "build", ...args]);
  let imported = "";
  const copied = () => {
    const start = performance.now();
    copyFileSync(first, join(folder, "copy.csv"));
    return { seconds: (performance.now() - start) / 1000, peakMegabytes: NaN };
  };
  const inSqlite = () => {
    const file = join(folder, "rival.db");
    rmSync(file, { force: true });
    const index = 'CREATE UNIQUE INDEX k ON goods ("Article no")';
    return timed(SQLITE, [file, ".mode csv", `.import ${first} goods`, index]);
  };
  const asFirst = () => {
    const store = new Database(join(table, ".lexicant", "store.db"));
    store.exec("DELETE FROM built; DELETE FROM book");
    store.close();
    return built(table, "lanternlist");
  };
  // Another copy, of which the channel was sent all: what changes in it by turns is one row in a hundred, and back again.
  const turning = join(folder, "turning");
  cpSync(shop, turning, { recursive: true });
  const inTurning = (...args) => lexicant(["-C", turning, ...args]);
  inTurning("build", "lanternlist");
  inTurning("sent", "lanternlist");
  inTurning("check", "lanternlist");
  inTurning("build", "lanternlist", "--changed");
  let isFirst = true;
  const turned = () => {
    isFirst = !isFirst;
    inTurning("import", isFirst ? first : second, "--quiet");
  };
  const ofAll = (...args) => {
    rmSync(join(shop, ".lexicant", "kept"), { recursive: true, force: true });
    return lexicant(["-C", shop, ...args]);
  };
  /** What is measured, and the title of what it is held against. */
  const steps = [
    step("plain copy of the file", copied),
    ...(isThere(SQLITE) ? [step(BY_SQLITE, inSqlite)] : []),
    step(
      "import, fresh",
      () => lexicant(["-C", (imported = fresh()), "import", first, "--quiet"]),
      BY_SQLITE,
    ),
    step(
      "import the same again",
      () => lexicant(["-C", imported, "import", first, "--quiet"]),
      "import, fresh",
    ),
    step(
      "import with 1% changed",
      () => lexicant(["-C", imported, "import", second, "--quiet"]),
      "import, fresh",
    ),
    step(BY_DUCKDB, () => measureNode(duckdb, [first, join(folder, "duck.tsv"), placements, THREADS])),
    ...(isThere(MILLER)
      ? [
          step(
            "Miller's script",
            () => timed(MILLER, millerArguments(first, placements), join(folder, "miller.tsv")),
            BY_DUCKDB,
          ),
        ]
      : []),
    step("check lanternlist", () => ofAll("check", "lanternlist"), BY_DUCKDB),
    step(
      "check after 1% changed",
      () => {
        turned();
        return inTurning("check", "lanternlist");
      },
      "check lanternlist",
    ),
    step("check after nothing changed", () => inTurning("check", "lanternlist"), "check lanternlist"),
    step("build lanternlist, TSV, nothing built before", asFirst, BY_DUCKDB),
    step(BUILT, () => built(table, "lanternlist"), BY_DUCKDB),
    step("build lanternlist, TSV, one thread", () => built(table, "lanternlist", "--workers", "1"), BUILT),
    ...channels.map((channel) => step(`build ${channel}`, () => built(shop, channel), BUILT)),
    step(
      "build lanternlist --changed after 1% changed",
      () => {
        turned();
        return inTurning("build", "lanternlist", "--changed");
      },
      "build lanternlist",
    ),
    step("build all six in one pass", () => built(shop, ...channels), "build lanternlist"),
    step(EMPTY, () => measureNode(undefined, ["-e", "0"])),
    step("lexicant --help", () => lexicant(["--help"]), EMPTY),
    step("lexicant show SKU", () => lexicant(["-C", shop, "show", "BC-1101-10"]), EMPTY),
  ].filter(({ title }) => title.includes(ONLY));
  const seen = new Map(steps.map(({ title }) => [title, []]));
  for (let round = 0; round < RUNS; round++)
    for (const { title, measure } of steps) seen.get(title).push(measure());
  process.stdout.write(
    `${ROWS.toLocaleString("en")} products, medians of ${RUNS}\n\n| work | s | MB | ratio | to |\n| --- | ---: | ---: | ---: | --- |\n`,
  );
  for (const { title, against } of steps) {
    const own = seen.get(title);
    const other = seen.get(against);
    // Held against what ran in the same round.
    const ratio =
      other === undefined ? undefined : median(own.map(({ seconds }, at) => seconds / other[at].seconds));
    const memory = median(own.map(({ peakMegabytes }) => peakMegabytes));
    const cells = [
      title,
      median(own.map(({ seconds }) => seconds)).toFixed(2),
      Number.isNaN(memory) ? "" : memory.toFixed(0),
      ratio === undefined ? "" : ratio.toFixed(2),
      ratio === undefined ? "" : against,
    ];
    process.stdout.write(`| ${cells.join(" | ")} |\n`);
  }
};
