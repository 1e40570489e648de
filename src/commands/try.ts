import { command } from "./command.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { text, named, limit } from "./options/option.js";
import { textOf } from "../core/catalogue/product.js";
import { placeText } from "../core/diagnostics/place.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { factsOf } from "../core/language/trouble.js";
import { troubleText } from "../workspace/wording.js";
import { isList, type MaybeBlank } from "../core/values/value.js";
import { shownText } from "../core/values/show.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import type { Store } from "../store/store.js";
import type { CommandFile } from "./command-file.js";
import type { ExitCode } from "../io/exit-code.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { unknownSku } from "../flow/refusals.js";
import { loadChannel } from "../flow/run-channels.js";
import type { TriedStep } from "../flow/try/steps.js";
import { trierFor, type Trial, type Trier } from "../flow/try/trials.js";

const SHOWN = 10;

/** `lexicant try 'EXPRESSION'`: what an expression comes to on real products, and how. */
export const tryExpression: CommandFile = command({
  args: [["<expression>", "the expression, in single quotes so that the shell leaves it alone"]],
  options: {
    sku: text("--sku <sku>", "on this product, with each step", "is a product's SKU", 200),
    channel: named(
      "--channel <name>",
      "as a fill of this channel: its prices, its own texts, its fields by field(…)",
    ),
    limit: limit(`without --sku: show so many products (${SHOWN})`),
  },
  examples: [
    ["try 'fit(name, 40)'", "on the first products"],
    ["try 'price * 1.2' --sku BC-1301", "on one product, step by step"],
  ],
  async run({ given, args, options, io }) {
    const [text = ""] = args;
    refuseIdle([
      [given.limit !== undefined && given.sku !== undefined, "--limit", "all products, not with --sku"],
    ]);
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const known = await surroundings();
      const channel =
        given.channel === undefined ? undefined : await loadChannel(workspace, store, given.channel, known);
      const trier = trierFor(text, await store.attributes(), known, channel);
      if (given.sku !== undefined) return one(await onSku(given.sku, store, trier), store, options.json, io);
      if (!trier.readsProducts) return one(trier.alone(), store, options.json, io);
      return several(trier, store, given.limit ?? (options.json ? Infinity : SHOWN), options.json, io);
    });
  },
});

async function onSku(sku: string, store: Store, trier: Trier): Promise<Trial> {
  const family = await store.familyOf(sku);
  const trial =
    family === undefined ? undefined : (await trier.on(family)).find(({ product }) => product?.sku === sku);
  if (trial !== undefined) return trial;
  throw new Refusal([await unknownSku(sku, store)]);
}

function valueText(value: MaybeBlank): string {
  if (value === undefined) return "blank";
  return isList(value) ? value.map(shownText).join(" | ") : shownText(value);
}

const trialJson = ({ product, value, troubles, steps }: Trial, withSteps: boolean): string =>
  jsonLine({
    type: "trial",
    sku: product?.sku ?? null,
    value: value === undefined ? null : isList(value) ? value.map(shownText) : shownText(value),
    troubles: troubles.map((trouble) => troubleText(factsOf(trouble))),
    ...(withSteps
      ? { steps: steps.map(({ text, value: own }) => ({ part: text, value: valueText(own) })) }
      : {}),
  });

function one(trial: Trial, store: Store, json: boolean, io: Io): ExitCode {
  if (json) io.out(trialJson(trial, true));
  else io.out(`${stepLines(trial, store, io).join("\n")}\n`);
  return trial.troubles.length > 0 ? 1 : 0;
}

const columns = [
  { title: "part", flexible: true },
  { title: "comes to", flexible: true },
  { title: "from", flexible: true },
] as const;

/** Where an attribute's value came from: a file, an edit, or the channel's own rules for prices and stock. */
function originOf({ product }: Trial, { name, value }: TriedStep, store: Store): string {
  const slot = name === undefined ? undefined : product?.attributes.slot(name);
  if (slot === undefined || product === undefined) return "";
  if (valueText(product.value(slot)) !== valueText(value)) return "made by channel.yaml";
  const origin = product.origin(slot);
  return origin === undefined ? "" : placeText(store.placeOf(origin, name ?? ""));
}

function stepLines(trial: Trial, store: Store, io: Io): readonly string[] {
  const style = styleFor(io);
  const { product, value, troubles, steps } = trial;
  const parts = steps.slice(0, -1);
  const rows = parts.map((step) => [
    `${"  ".repeat(Math.max(0, step.depth - 1))}${step.text}`,
    valueText(step.value),
    originOf(trial, step, store),
  ]);
  const [head = "", ...lines] = tableLines(columns, rows, io);
  const title = product === undefined ? [] : [style.bold(`${product.sku}  ${textOf(product, "name") ?? ""}`)];
  return [
    ...title,
    ...(rows.length === 0 ? [] : [style.bold(head), ...lines, ""]),
    `gives ${style.good(valueText(value))}`,
    ...troubles.map((trouble) => `${style.severity("error", "but")} ${troubleText(factsOf(trouble))}`),
  ];
}

async function several(trier: Trier, store: Store, limit: number, json: boolean, io: Io): Promise<ExitCode> {
  const shown: Trial[] = [];
  const counts = { all: 0, blank: 0, troubled: 0 };
  for await (const families of store.families())
    for (const family of families)
      for (const trial of await trier.on(family)) {
        counts.all++;
        if (trial.troubles.length > 0) counts.troubled++;
        if (trial.value === undefined) counts.blank++;
        if (json && counts.all <= limit) io.out(trialJson(trial, false));
        else if (!json && shown.length < limit) shown.push(trial);
      }
  if (!json) io.out(`${tableOf(shown, counts, io).join("\n")}\n`);
  return counts.troubled > 0 ? 1 : 0;
}

const productColumns = [
  { title: "sku" },
  { title: "name", flexible: true },
  { title: "comes to", flexible: true },
] as const;

function tableOf(
  shown: readonly Trial[],
  { all, blank, troubled }: { readonly all: number; readonly blank: number; readonly troubled: number },
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  if (all === 0) return ['The catalogue is empty; fill it with "lexicant import FILE".'];
  const rows = shown.map(({ product, value, troubles: [trouble] }) => [
    product?.sku ?? "",
    product === undefined ? "" : (textOf(product, "name") ?? ""),
    trouble === undefined ? valueText(value) : `could not: ${troubleText(factsOf(trouble))}`,
  ]);
  const [head = "", ...lines] = tableLines(productColumns, rows, io);
  const counts = [
    `${countText(all - blank, "product")} of ${all.toLocaleString("en")} ${all - blank === 1 ? "has" : "have"} a value`,
    `${blank.toLocaleString("en")} blank`,
    ...(troubled > 0 ? [`${troubled.toLocaleString("en")} could not be worked out in full`] : []),
  ];
  const first = shown[0]?.product?.sku ?? "SKU";
  return [style.bold(head), ...lines, `${counts.join(", ")}.`, `Each step of one: add --sku ${first}`];
}
