// A definition of 30,000 categories and 400,000 field rows: how long it loads, beside the bare reading of its tables, and
// how long 500 of our categories take to be placed in it.
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import Papa from "papaparse";

const CATEGORIES = 30_000;
const ROWS = 400_000;
const OURS = 500;

const seconds = async (work) => {
  const begun = performance.now();
  const result = await work();
  return [result, (performance.now() - begun) / 1000];
};

/** A tree of three levels whose names are pairs of real words of the largest shipped tree. */
const makeDefinition = (folder, names) => {
  mkdirSync(join(folder, "large", "values"), { recursive: true });
  const words = [
    ...new Set(names.flatMap((name) => name.split(/[^A-Za-z]+/)).filter((word) => word.length > 3)),
  ];
  const word = (at) => words[at % words.length];
  const codes = [];
  const rows = ["code,parent,name"];
  for (let top = 0; top < 30; top++) {
    rows.push(`T${top},,${word(top * 7)} ${top}`);
    for (let middle = 0; middle < 33; middle++) {
      const parent = `T${top}.${middle}`;
      rows.push(`${parent},T${top},${word(top + middle * 11)} ${word(top * 31 + middle)} ${middle}`);
      for (let leaf = 0; leaf < 30 && rows.length < CATEGORIES; leaf++) {
        codes.push(`${parent}.${leaf}`);
        rows.push(
          `${parent}.${leaf},${parent},${word(codes.length * 13)} ${word(codes.length * 17 + leaf)} ${leaf}`,
        );
      }
    }
  }
  writeFileSync(join(folder, "large", "categories.csv"), `${rows.join("\n")}\n`);
  const fields = ["field,scope,label,kind,need,max_length,values,when", "ref,*,Ref,text,required,40,,"];
  for (let at = 0; at < 400; at++)
    fields.push(
      `f${at},*,Field ${at},${at % 3 === 0 ? "choice" : "text"},optional,200,${at % 3 === 0 ? "shades" : ""},`,
    );
  for (let at = 0; fields.length <= ROWS; at++)
    fields.push(
      `f${(at * 7 + Math.floor(at / codes.length)) % 400},${codes[at % codes.length]},,,${at % 2 === 0 ? "required" : "recommended"},${50 + (at % 100)},,${at % 20 === 0 ? "ref is given" : ""}`,
    );
  writeFileSync(join(folder, "large", "fields.csv"), `${fields.join("\n")}\n`);
  writeFileSync(join(folder, "large", "values", "shades.csv"), `value\n${words.slice(0, 200).join("\n")}\n`);
  writeFileSync(
    join(folder, "large", "definition.yaml"),
    'channel: large\nlabel: Large\nversion: "1"\nlanguages: [en]\ncurrencies: [GBP]\ncountries: [GB]\nidentified_by: ref\ngroups: { model: separate, told_apart_by: ref }\npurposes: [full]\nlayouts:\n  - { layout: table, format: tsv, file: large.tsv }\n',
  );
  return { categories: rows.length - 1, rows: fields.length - 1 };
};

export const run = async (folder) => {
  const { findDefinitions, loadDefinition } = await import("../modules/workspace/definition-files.js");
  const { shippedDefinitions } = await import("../modules/workspace/workspace.js");
  const { categoryIndex } = await import("../modules/core/placement/category-index.js");
  const { suggest } = await import("../modules/core/placement/suggest.js");
  const { loadGlossary } = await import("../modules/workspace/goods-files.js");
  const { categoryRules } = await import("../modules/core/channel/category-rules.js");
  /** @type {import("../src/core/language/function.js").Surroundings} */
  const surroundings = { today: { kind: "date", iso: "2026-11-25" } };
  const shipped = await findDefinitions([{ path: shippedDefinitions, shown: "shipped" }]);
  const known = await loadDefinition(
    shipped.find(({ channel }) => channel === "merrowgate"),
    surroundings,
  );
  const size = makeDefinition(
    folder,
    known.tree.all.map(({ name }) => name),
  );
  const [large] = await findDefinitions([{ path: folder, shown: "large" }]);
  const [, reading] = await seconds(() =>
    ["categories.csv", "fields.csv"].map((name) =>
      Papa.parse(readFileSync(join(folder, "large", name), "utf8")),
    ),
  );
  const [definition, loading] = await seconds(() => loadDefinition(large, surroundings));
  const megabytes = Math.round(process.memoryUsage().rss / 2 ** 20);
  process.stdout.write(
    `${size.categories} categories and ${size.rows} field rows: loaded in ${loading.toFixed(2)} s (its tables read alone ${reading.toFixed(2)} s, ratio ${(loading / reading).toFixed(1)}), ${megabytes} MB\n`,
  );
  const open = definition.tree.all.filter(({ hasChildren }) => !hasChildren);
  const [, compiling] = await seconds(() =>
    open.slice(0, 1000).forEach((category) => categoryRules(definition, category)),
  );
  process.stdout.write(`rules of 1000 of its categories: ${compiling.toFixed(2)} s\n`);
  const glossary = await loadGlossary([]);
  const [index, indexing] = await seconds(() => categoryIndex(definition.tree, glossary));
  const ours = open.filter((_, at) => at % Math.floor(open.length / OURS) === 0).slice(0, OURS);
  const [, placing] = await seconds(() =>
    ours.forEach(({ path }) => suggest({ path, names: [path], neighbours: [], elsewhere: [] }, index)),
  );
  process.stdout.write(
    `${ours.length} of our categories placed in it: ${placing.toFixed(2)} s, and ${indexing.toFixed(2)} s to index the tree\n`,
  );
};
