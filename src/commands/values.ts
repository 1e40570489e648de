import { command } from "./command.js";
import { limit } from "./options/option.js";
import { fieldNamed, listsOf } from "../core/channel/definition.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { countText } from "../core/diagnostics/phrases.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import type { CommandFile } from "./command-file.js";
import { namedDefinition } from "../flow/channel-definition.js";

const SHOWN = 40;

const columns = [
  { title: "value" },
  { title: "label", flexible: true },
  { title: "also understood", flexible: true },
] as const;

/** `lexicant values CHANNEL FIELD [WORDS]`: the values that a field permits, those near to some words first. */
export const values: CommandFile = command({
  args: [
    ["<channel>", "the channel"],
    ["<field>", "a field of the channel"],
    ["[words...]", "what the value should mean"],
  ],
  options: {
    limit: limit(`at most so many (${SHOWN} unless in JSON)`),
  },
  examples: [["values fjordhandel colour green", "the permitted greens"]],
  async run({ given, args, options, io }) {
    const [channel = "", code = "", ...words] = args;
    const definition = await namedDefinition(options.workspace, channel, io);
    const field = fieldNamed(definition, code);
    if (field === undefined)
      throw new Refusal([
        diagnostic("unknown-field", { field: code, nearest: nearest(code, definition.fieldNames.all) }),
      ]);
    const lists = listsOf(definition, field);
    if (lists.length === 0) {
      io.out(`${field.label} takes any ${field.kind}; it has no list of values.\n`);
      return 0;
    }
    const wanted = words.join(" ");
    const all = [
      ...new Map(lists.flatMap((list) => list.values).map((value) => [value.value, value])).values(),
    ];
    const near = new Set(
      wanted === ""
        ? []
        : nearest(
            wanted,
            all.flatMap(({ value, label, synonyms }) => [value, label, ...synonyms].filter(Boolean)),
            12,
          ),
    );
    const chosen =
      wanted === ""
        ? all
        : all.filter(({ value, label, synonyms }) =>
            [value, label, ...synonyms].some(
              (name) => near.has(name) || name.toLowerCase().includes(wanted.toLowerCase()),
            ),
          );
    const limit = given.limit ?? (options.json ? Infinity : SHOWN);
    if (options.json) {
      for (const value of chosen.slice(0, limit))
        io.out(jsonLine({ type: "value", channel, field: field.code, ...value }));
      return 0;
    }
    if (chosen.length === 0) {
      io.out(`No value of ${field.label} is near to "${wanted}"; there are ${all.length}.\n`);
      return 0;
    }
    const rows = chosen
      .slice(0, limit)
      .map(({ value, label, synonyms }) => [value, label === value ? "" : label, synonyms.join(", ")]);
    const [head = "", ...lines] = tableLines(columns, rows, io);
    io.out(`${styleFor(io).bold(head)}\n${lines.map((line) => `${line}\n`).join("")}`);
    const more = chosen.length - rows.length;
    if (!options.quiet)
      io.err(
        `${countText(chosen.length, "value")}${more > 0 ? `; ${countText(more, "more", "more")} with --limit ${chosen.length}` : ""}\n`,
      );
    return 0;
  },
});
