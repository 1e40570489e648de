import { addAll } from "../core/many.js";
import { command } from "./command.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { flag } from "./options/option.js";
import { categoryRules, type CategoryField } from "../core/channel/category-rules.js";
import { needs, type Need } from "../core/channel/field.js";
import { limitWords } from "../core/channel/limit-words.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { wrapText } from "../report/text-width.js";
import type { CommandFile } from "./command-file.js";
import { namedCategory, namedDefinition } from "../flow/channel-definition.js";

/** `lexicant fields CHANNEL CATEGORY`: what the channel demands of a listing there, by need, and why. */
export const fields: CommandFile = command({
  args: [
    ["<channel>", "the channel"],
    ["<category>", "a category, by code or path"],
  ],
  options: {
    all: flag("--all", "optional fields with all their help too"),
  },
  examples: [["fields merrowgate HIVES", "what this category demands"]],
  async run({ given, args, options, io }) {
    const [channel = "", wanted = ""] = args;
    refuseIdle([[given.all && options.json, "--all", "an answer for people: JSON has all"]]);
    const definition = await namedDefinition(options.workspace, channel, io);
    const category = namedCategory(definition, wanted);
    const rules = categoryRules(definition, category);
    if (options.json) {
      for (const rule of rules.fields)
        io.out(jsonLine({ type: "field", channel, category: category.code, ...fieldJson(rule) }));
      for (const { code, says, severity, place } of rules.crossRules)
        io.out(
          jsonLine({ type: "rule", channel, category: category.code, rule: code, says, severity, place }),
        );
      return 0;
    }
    const style = styleFor(io);
    const lines = [
      style.bold(`${definition.label} ${definition.version}: ${category.path} (${category.code})`),
      ...files(rules.fields).map((file) => style.dim(`asked by the rows of ${file} that are named here`)),
    ];
    for (const [title, belongs] of groups) {
      const own = rules.fields.filter(belongs);
      if (own.length > 0)
        addAll(lines, [
          "",
          style.bold(`${title} (${own.length})`),
          ...own.flatMap((rule) => fieldLines(rule, given.all || title !== "optional", io)),
        ]);
    }
    if (rules.crossRules.length > 0)
      addAll(lines, [
        "",
        style.bold("rules between fields"),
        ...rules.crossRules.flatMap(({ says }) => wrapText(says, io.columns - 2).map((line) => `  ${line}`)),
      ]);
    io.out(`${lines.join("\n")}\n`);
    return 0;
  },
});

const isRequiredSometimes = ({ need, conditionalNeeds }: CategoryField): boolean =>
  need !== "required" && conditionalNeeds.some((conditional) => conditional.need === "required");

const files = (fields: readonly CategoryField[]): readonly string[] => [
  ...new Set(fields.map(({ place }) => place.file)),
];

/** What is demanded in some cases stands apart: a reader of "optional" would pass it over. */
const groups: readonly (readonly [string, (rule: CategoryField) => boolean])[] = [
  ["required", ({ need, field }) => need === "required" && field.axes.length === 0],
  ["required of variations", ({ need, field }) => need === "required" && field.axes.length > 0],
  ["required in some cases", isRequiredSometimes],
  ...needs
    .filter((wanted) => wanted !== "required")
    .map((wanted) => {
      const belongs = (rule: CategoryField): boolean => rule.need === wanted && !isRequiredSometimes(rule);
      return [wanted, belongs] as const;
    }),
];

const conditions = ({ conditionalNeeds }: CategoryField): readonly string[] =>
  conditionalNeeds.map(
    ({
      need,
      when,
    }: {
      readonly need: Need;
      readonly when: { readonly source: { readonly text: string } };
    }) => `${need} when ${when.source.text}`,
  );

function fieldLines(rule: CategoryField, inFull: boolean, io: Io): readonly string[] {
  const style = styleFor(io);
  const { field, place } = rule;
  const head = `  ${field.code}`.padEnd(22);
  const text = `${[field.label, ...field.otherLabels].join(" · ")}: ${limitWords(rule).join(", ")}`;
  const room = Math.max(40, io.columns - 23);
  const [first = "", ...rest] = wrapText(text, room);
  const indented = (line: string): string => `${" ".repeat(22)} ${line}`;
  const details = [
    ...conditions(rule),
    ...(field.help === "" ? [] : [field.help]),
    [field.example === "" ? "" : `such as ${field.example}`, `row ${place.row ?? "?"}`]
      .filter(Boolean)
      .join("; "),
  ].flatMap((line) => wrapText(line, room));
  return [
    `${style.bold(head)} ${first}`,
    ...rest.map(indented),
    ...(inFull ? details.map((line) => style.dim(indented(line))) : []),
  ];
}

function fieldJson(rule: CategoryField): Readonly<Record<string, unknown>> {
  const { field, need, limits, place } = rule;
  const { values, pattern, min, max, ...others } = limits;
  return {
    field: field.code,
    label: field.label,
    otherLabels: field.otherLabels,
    kind: field.kind,
    list: field.list,
    need,
    when: conditions(rule),
    ofVariationsBy: field.axes,
    unit: field.unit?.code,
    decimals: field.decimals,
    ...others,
    min: min?.toFixed(),
    max: max?.toFixed(),
    pattern: pattern?.source,
    values: values?.values.map(({ value }) => value),
    example: field.example,
    help: field.help,
    place,
  };
}
