// How well categories are placed: a labelled set of shops' categories against two channels. Half of it is held out: the
// rules were never changed by what it showed.
import { readFileSync } from "node:fs";
import Papa from "papaparse";

const { data } = Papa.parse(readFileSync(new URL("./placement/labels.csv", import.meta.url), "utf8"), {
  header: true,
  skipEmptyLines: true,
});

const percent = (part, all) => `${((100 * part) / Math.max(1, all)).toFixed(0)}%`;

export const run = async () => {
  const { findDefinitions, loadDefinition } = await import("../dist/workspace/definition-files.js");
  const { shippedDefinitions } = await import("../dist/workspace/workspace.js");
  const { categoryIndex } = await import("../dist/core/placement/category-index.js");
  const { suggest } = await import("../dist/core/placement/suggest.js");
  const { gatherGoods } = await import("../dist/core/placement/goods.js");
  const folders = await findDefinitions([{ path: shippedDefinitions, shown: "shipped" }]);
  const verbose = process.env.SHOW === "yes";
  for (const channel of ["merrowgate", "lanternlist"]) {
    const folder = folders.find((one) => one.channel === channel);
    const { tree } = await loadDefinition(folder, { today: { kind: "date", iso: "2026-11-25" } });
    const index = categoryIndex(tree);
    const isRight = (category, label) =>
      label.split("|").some((wanted) => category.name === wanted || category.code === wanted);
    for (const heldOut of [false, true]) {
      const rows = data.filter((row) => (row.held_out === "yes") === heldOut && row[channel] !== "");
      let [first, three, sure, wrongSure] = [0, 0, 0, 0];
      for (const row of rows) {
        const goods = gatherGoods();
        for (const name of row.names.split("; ")) goods.add(name);
        const found = suggest(
          { path: row.our_category, goods: goods.words(), neighbours: [], elsewhere: [] },
          index,
        );
        const right = found.map(({ category }) => isRight(category, row[channel]));
        if (right[0]) first++;
        if (right.includes(true)) three++;
        const isSure = (found[0]?.confidence ?? 0) >= 0.9;
        if (isSure) sure++;
        if (isSure && !right[0]) wrongSure++;
        if (verbose && !heldOut && !right[0])
          process.stdout.write(
            `   ${row.our_category} (${row.names}) → ${found.map(({ category, confidence }) => `${category.name} ${Math.round(confidence * 100)}%`).join(", ")}; wanted ${row[channel]}\n`,
          );
      }
      process.stdout.write(
        `${channel.padEnd(12)} ${heldOut ? "held out" : "looked at"}: ${rows.length} categories, first right ${percent(first, rows.length)}, in the first three ${percent(three, rows.length)}, ` +
          `sure (0.9 and above) ${sure}, of which wrong ${wrongSure}\n`,
      );
    }
  }
};
