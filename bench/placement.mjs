// How well categories are placed: labelled categories of shops against four channels. `labels.csv` are the first shops,
// made beside the trees; `trades.csv` are shops of other trades, in the words of shopkeepers, labelled by reading the trees.
// Of these `looked at` set the weights, `kept` were never looked at one by one but are by the hand that wrote the
// glossary, `checked` were measured once before their faults were mended, `last` were measured when all was done.
// `after.csv` are further shelves of the last trades, each with the shelf beside which it belongs: how well they are placed
// alone, and how well once a person has placed the shelves of `trades.csv`.
import { readFileSync } from "node:fs";
import Papa from "papaparse";

const read = (file) =>
  Papa.parse(readFileSync(new URL(`./placement/${file}`, import.meta.url), "utf8"), {
    header: true,
    skipEmptyLines: true,
  }).data;

const CHANNELS = ["merrowgate", "fjordhandel", "gavelstead", "lanternlist"];
const SURE = 0.9;

const percent = (part, all) => `${((100 * part) / Math.max(1, all)).toFixed(0)}%`.padStart(5);

const tally = () => ({ all: 0, first: 0, three: 0, sure: 0, wrong: 0, homeless: 0, housed: 0 });

const line = (name, { all, first, three, sure, wrong, homeless, housed }) =>
  `${name.padEnd(24)} ${String(all).padStart(5)}  first ${percent(first, all)}  among three ${percent(three, all)}  ` +
  `sure ${percent(sure, all)}, wrong of these ${String(wrong).padStart(2)} (${percent(wrong, sure).trim()})` +
  `${homeless > 0 ? `;  without a place ${String(homeless).padStart(4)}, sure all the same ${housed}` : ""}\n`;

export const run = async () => {
  const { findDefinitions, loadDefinition } = await import("../modules/workspace/definition-files.js");
  const { shippedDefinitions } = await import("../modules/workspace/workspace.js");
  const { loadGlossary } = await import("../modules/workspace/goods-files.js");
  const { categoryIndex } = await import("../modules/core/placement/category-index.js");
  const { suggest } = await import("../modules/core/placement/suggest.js");
  const begun = performance.now();
  const glossary = await loadGlossary([]);
  process.stdout.write(
    `glossary: ${glossary.goods.length} goods, read in ${(performance.now() - begun).toFixed(0)} ms\n`,
  );
  const folders = await findDefinitions([{ path: shippedDefinitions, shown: "shipped" }]);
  const rows = [
    ...read("labels.csv").map((row) => ({
      ...row,
      ...{ trade: row.shop, style: "first shops", half: row.held_out === "yes" ? "first, kept" : "first" },
    })),
    ...read("trades.csv"),
  ];
  const shown = process.env.SHOW ?? "";
  const tallies = new Map();
  const tenths = new Map();
  for (const channel of CHANNELS) {
    const folder = folders.find((one) => one.channel === channel);
    const { tree } = await loadDefinition(folder, { today: { kind: "date", iso: "2026-11-25" } });
    const index = categoryIndex(tree, glossary);
    for (const row of rows) {
      if ((row[channel] ?? "") === "") continue;
      const wanted = row[channel].split("|");
      const names = row.names.split("; ");
      const found = suggest({ path: row.our_category, names, neighbours: [], elsewhere: [] }, index);
      // Merrowgate's labels of categories that hold finer ones mean those as well.
      const isRight = (category) => {
        for (let own = category; own !== undefined; own = channel === "merrowgate" ? own.parent : undefined)
          if (wanted.includes(own.code) || wanted.includes(own.name)) return true;
        return false;
      };
      const right = found.suggestions.map(({ category }) => isRight(category));
      const confidence = found.suggestions[0]?.confidence ?? 0;
      const isNothing = wanted.includes("none") && found.nothing > confidence;
      const keys = [
        row.half,
        `${row.half}: ${channel}`,
        `${row.half}: ${row.style}`,
        `${row.half}: ${row.trade}`,
      ];
      for (const key of keys) {
        const own = tallies.get(key) ?? tally();
        tallies.set(key, own);
        if (wanted.every((one) => one === "none")) {
          own.homeless++;
          if (confidence >= SURE) own.housed++;
          continue;
        }
        own.all++;
        if (right[0] || isNothing) own.first++;
        if (right.includes(true) || isNothing) own.three++;
        if (confidence >= SURE) own.sure++;
        if (confidence >= SURE && !right[0]) own.wrong++;
      }
      const tenth = `${row.half}\t${Math.min(9, Math.floor(confidence * 10))}`;
      const [all, good] = tenths.get(tenth) ?? [0, 0];
      tenths.set(tenth, [all + 1, good + (right[0] ? 1 : 0)]);
      if (row.half === shown && !right[0] && !isNothing)
        process.stdout.write(
          `   ${channel}: ${row.our_category} (${row.names}) → ${found.suggestions.map(({ category, confidence: own }) => `${category.name} ${Math.round(own * 100)}%`).join(", ")}; wanted ${row[channel]}\n`,
        );
    }
  }
  await learned(folders, glossary, categoryIndex, suggest);
  for (const [name, own] of [...tallies].sort((a, b) => (a[0] < b[0] ? -1 : 1)))
    process.stdout.write(line(name, own));
  for (const half of new Set(rows.map((row) => row.half)))
    process.stdout.write(
      `${half}, said and true by tenths: ${Array.from({ length: 10 }, (_, at) => {
        const [all, good] = tenths.get(`${half}\t${at}`) ?? [0, 0];
        return `${at / 10}: ${percent(good, all).trim()} of ${all}`;
      }).join("; ")}\n`,
    );
};

/** Shelves that come when others of the shop have been placed. */
const learned = async (folders, glossary, categoryIndex, suggest) => {
  const { loadDefinition } = await import("../modules/workspace/definition-files.js");
  const { confirmedAs, Learned } = await import("../modules/core/placement/learned.js");
  const { understand } = await import("../modules/core/placement/subject.js");
  const [trades, after] = [read("trades.csv"), read("after.csv")];
  const tallies = new Map();
  const subjectOf = ({ our_category: path, names }) => ({
    ...{ path, names: names.split("; "), neighbours: [], elsewhere: [] },
  });
  for (const channel of CHANNELS) {
    const folder = folders.find((one) => one.channel === channel);
    const { tree } = await loadDefinition(folder, { today: { kind: "date", iso: "2026-11-25" } });
    const index = categoryIndex(tree, glossary);
    const categoryOf = (code) => tree.all.find((one) => one.code === code || one.name === code);
    for (const row of after) {
      const shop = trades.filter(({ trade }) => trade === row.trade);
      const like = shop.find(({ our_category }) => our_category === row.like);
      const wanted = (like?.[channel] ?? "").split("|").filter((code) => code !== "" && code !== "none");
      if (wanted.length === 0) continue;
      const placed = shop.flatMap((one) => {
        const category = categoryOf(one[channel].split("|")[0]);
        return category === undefined ? [] : [{ one, category }];
      });
      const above = row.our_category.split(" > ").slice(0, -1).join(" > ");
      const neighbours = placed.flatMap(({ one, category }) =>
        above !== "" && one.our_category.startsWith(`${above} > `) ? [category] : [],
      );
      const known = new Learned(
        placed.map(({ one, category }) => confirmedAs(understand(subjectOf(one), index), category)),
        index,
      );
      const isRight = (category) => {
        for (let own = category; own !== undefined; own = channel === "merrowgate" ? own.parent : undefined)
          if (wanted.includes(own.code) || wanted.includes(own.name)) return true;
        return false;
      };
      for (const [name, found] of [
        ["alone", suggest(subjectOf(row), index)],
        ["after others", suggest({ ...subjectOf(row), neighbours }, index, { learned: known })],
      ]) {
        const key = `${name}: ${row.half}`;
        const own = tallies.get(key) ?? tally();
        tallies.set(key, own);
        const right = found.suggestions.map(({ category }) => isRight(category));
        const isSure = (found.suggestions[0]?.confidence ?? 0) >= SURE;
        own.all++;
        if (right[0]) own.first++;
        if (right.includes(true)) own.three++;
        if (isSure) own.sure++;
        if (isSure && !right[0]) own.wrong++;
      }
    }
  }
  for (const [name, own] of [...tallies].sort((a, b) => (a[0] < b[0] ? -1 : 1)))
    process.stdout.write(line(name, own));
};
