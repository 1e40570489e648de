// Makes the shipped workbook templates of channels that are filled in place: one for each branch of the tree.
import { mkdtempSync, readdirSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { build, install, outputPath, root } from "./setup.mjs";

install();
build();
const { writeXlsx } = await import("hucre/xlsx");
const { loadDefinition } = await import("../modules/workspace/definition-files.js");
const { branchRules, describe, slug } = await import("../modules/flow/builds/branch-rules.js");
const { columnLetter } = await import("../modules/core/diagnostics/place.js");
/** @type {import("../src/core/language/function.js").Surroundings} */
const surroundings = { today: { kind: "date", iso: "2026-11-25" } };
const UNDATED = new Date("2000-01-01T00:00:00Z");
const ROOM = 200;

for (const channel of readdirSync(join(root, "definitions"))) {
  const path = join(root, "definitions", channel);
  const definition = await loadDefinition({ channel, path, shown: `definitions/${channel}` }, surroundings);
  const layout = definition.layouts.find(({ format }) => format === "xlsx");
  if (layout?.format !== "xlsx" || layout.templates === "") continue;
  // The shipped workbooks give way when all new ones are whole.
  const folder = outputPath("definitions", channel, layout.templates);
  const fresh = mkdtempSync(join(dirname(folder), ".templates-"));
  for (const branch of definition.tree.all.filter(({ parent }) => parent === undefined)) {
    const rules = branchRules(definition, branch);
    const fields = definition.fields.filter(({ code }) => rules.has(code));
    const cells = new Map();
    const lists = [];
    const validations = [];
    fields.forEach((field, column) => {
      const rule = rules.get(field.code);
      const needed = rule.need === "required";
      cells.set(`0,${column}`, {
        value: field.label,
        type: "string",
        style: {
          font: { bold: true, color: { rgb: needed ? "FFFFFF" : "333333" } },
          fill: { type: "pattern", pattern: "solid", fgColor: { rgb: needed ? "7A4E2D" : "E9DCC9" } },
          alignment: { wrapText: true, vertical: "top" },
        },
        comment: { author: definition.label, text: describe(rule) },
      });
      const values = field.list ? undefined : rule.limits.values?.values.map(({ value }) => value);
      if (values === undefined) return;
      lists.push(values);
      const list = columnLetter(lists.length - 1);
      validations.push({
        type: "list",
        formula1: `Values!$${list}$1:$${list}$${values.length}`,
        allowBlank: true,
        range: `${columnLetter(column)}2:${columnLetter(column)}${ROOM + 1}`,
      });
    });
    const guide = [
      [`${definition.label}: ${branch.name}`],
      ["One row for each item on the sheet Items; the notes on its header say what each column takes."],
      ["Items of one range have the same range reference."],
      ["Items filled in:", null],
    ];
    const bytes = await writeXlsx({
      properties: { title: `${definition.label} ${definition.version}`, created: UNDATED, modified: UNDATED },
      activeSheet: 1,
      sheets: [
        {
          name: "Read me",
          rows: guide,
          columns: [{ width: 80 }, { width: 12 }],
          cells: new Map([
            ["0,0", { value: guide[0][0], type: "string", style: { font: { bold: true, size: 14 } } }],
            ["3,1", { value: null, type: "formula", formula: "COUNTA(Items!A2:A20001)" }],
          ]),
        },
        {
          name: layout.sheet,
          rows: [fields.map(({ label }) => label)],
          columns: fields.map(({ label }) => ({
            width: Math.min(34, Math.max(12, label.length + 3)),
            numFmt: "@",
            style: { numFmt: "@" },
          })),
          cells,
          dataValidations: validations,
          freezePane: { rows: 1, columns: 1 },
        },
        {
          name: "Values",
          hidden: true,
          rows: Array.from({ length: Math.max(0, ...lists.map((list) => list.length)) }, (_, row) =>
            lists.map((list) => list[row] ?? null),
          ),
        },
      ],
    });
    writeFileSync(join(fresh, `${slug(branch.name)}.xlsx`), bytes);
  }
  rmSync(folder, { recursive: true, force: true });
  renameSync(fresh, folder);
  process.stdout.write(`${channel}: templates written\n`);
}
