import { command } from "./command.js";
import { families, usage, type ExpressionFunction } from "../core/language/function.js";
import { functions as all } from "../core/language/functions/functions.js";
import { nearest } from "../core/values/nearest.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import { wrapText } from "../report/text-width.js";
import type { CommandFile } from "./command-file.js";

/** `lexicant functions [WORDS]`: what expressions can call, all of it or what has the words. */
export const functions: CommandFile = command({
  args: [["[words...]", "words to look for in names, families and descriptions"]],
  options: {},
  examples: [["functions round", "those that round"]],
  run({ args, options, io }) {
    const words = args.flatMap((arg) => arg.toLowerCase().split(/\s+/)).filter(Boolean);
    const found = words.length === 0 ? all : search(words);
    if (options.json) for (const one of found) io.out(jsonLine(functionJson(one)));
    else io.out(`${(words.length === 0 ? overview(io) : details(found, words, io)).join("\n")}\n`);
    return Promise.resolve(0);
  },
});

const functionJson = ({
  name,
  family,
  summary,
  parameters,
  result,
  examples,
  ...rest
}: ExpressionFunction) => ({
  type: "function",
  name,
  family,
  usage: usage({ name, family, summary, parameters, result, examples, ...rest }),
  summary,
  result,
  examples,
});

const textOf = ({ name, family, summary }: ExpressionFunction): string =>
  `${name} ${family} ${summary}`.toLowerCase();

/** Those with every word; a name that begins with one comes first. */
function search(words: readonly string[]): readonly ExpressionFunction[] {
  const found = all.filter((one) => words.every((word) => textOf(one).includes(word)));
  const isNamed = ({ name }: ExpressionFunction): boolean => words.some((word) => name.startsWith(word));
  return [...found.filter(isNamed), ...found.filter((one) => !isNamed(one))];
}

const columns = [{ title: "function" }, { title: "what it gives", flexible: true }] as const;

function overview(io: Io): readonly string[] {
  const style = styleFor(io);
  return [
    ...families.flatMap((family) => {
      const own = all.filter((one) => one.family === family);
      const rows = own.map((one) => [`  ${usage(one)}`, one.summary]);
      return [style.bold(family), ...tableLines(columns, rows, io).slice(1)];
    }),
    "",
    "One in full, with examples: lexicant functions NAME. Try one: lexicant try 'fit(name, 40)'",
  ];
}

function details(found: readonly ExpressionFunction[], words: readonly string[], io: Io): readonly string[] {
  const style = styleFor(io);
  if (found.length === 0) {
    const close = nearest(
      words.join("_"),
      all.map(({ name }) => name),
    );
    return [
      `No function is described with these words${close.length === 0 ? "" : `; nearest: ${close.join(", ")}`}. All of them: lexicant functions`,
    ];
  }
  return found.flatMap((one, index) => [
    ...(index === 0 ? [] : [""]),
    `${style.bold(usage(one))}  ${style.dim(one.family)}`,
    ...wrapText(one.summary, io.columns - 2).map((line) => `  ${line}`),
    ...one.examples.map(({ expression, gives }) => `  ${expression}  ${style.dim("→")}  ${gives}`),
  ]);
}
