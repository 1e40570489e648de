import { attributeIndex } from "../../src/core/catalogue/attribute-index.js";
import { product } from "../../src/core/catalogue/product.js";
import { asSku } from "../../src/core/ids.js";
import { program } from "../../src/core/language/program.js";
import type { ChannelSetup } from "../../src/core/listing/channel-setup.js";
import { lexiconOf, type LexiconRow } from "../../src/core/listing/lexicon.js";
import { everything, type Selection } from "../../src/core/listing/selection.js";
import { fillNames } from "../../src/core/listing/fill-names.js";
import type { Outcome } from "../../src/core/listing/listing.js";
import { pipelineFor } from "../../src/core/listing/pipeline.js";
import { placementsOf } from "../../src/core/placement/placements.js";
import { fieldNamed, type ChannelDefinition } from "../../src/core/channel/definition.js";
import { sentence } from "../../src/core/diagnostics/wording.js";
import { surroundings } from "./evaluate.js";

const attributes = attributeIndex(
  "sku group varies_by name price list_price color weight images category quantity".split(" "),
);
export const productOf = (texts: Readonly<Record<string, string>>) =>
  product(
    asSku(texts["sku"] ?? ""),
    attributes,
    attributes.names.map((name) => texts[name]),
    attributes.names.map((name) => (texts[name] === undefined ? undefined : { revision: 1, row: 2 })),
  );

const fills: Readonly<Record<string, string>> = {
  ref: "sku",
  title: '"{name}{, color}"',
  price: "price",
  was: "list_price",
  hue: "color",
  heft: "weight",
  shots: "images",
};

/** A channel set up over a small definition, with a fill for each of its fields. */
export const setupOf = (
  definition: ChannelDefinition,
  {
    lexicon = [],
    select,
    selection = {},
    fills: own = {},
  }: {
    readonly lexicon?: readonly LexiconRow[];
    readonly select?: string;
    readonly selection?: Partial<Selection>;
    /** Fills beside or in the place of the usual ones. */
    readonly fills?: Readonly<Record<string, string>>;
  } = {},
): ChannelSetup => {
  const names = fillNames(attributes, definition);
  const compile = (text: string) => {
    const ready = program({ text, place: { file: "fills.yaml", line: 1 } }, names, surroundings);
    if (ready.kind === "faulty") throw new Error(ready.findings.map(sentence).join("\n"));
    return ready;
  };
  const category = (code: string) => {
    const found = definition.tree.find(code);
    if (found === undefined) throw new Error(`no category ${code}`);
    return found;
  };
  const placement = (ourCategory: string, sku: string, code: string) => ({
    ourCategory,
    sku,
    to: { kind: "category" as const, category: category(code) },
    place: { file: "placements.csv" },
  });
  return {
    channel: "stall",
    definition,
    attributes,
    selection: { ...everything, condition: select === undefined ? undefined : compile(select), ...selection },
    prices: undefined,
    stock: undefined,
    lastPrice: undefined,
    today: surroundings.today,
    placements: placementsOf([
      placement("Tools", "", "g.t"),
      placement("Tools > Spades", "", "g.t.s"),
      placement("", "GLOVE", "w.t"),
    ]),
    fills: [
      {
        scope: "all",
        fills: Object.entries({ ...fills, ...own }).flatMap(([code, text]) => {
          const field = fieldNamed(definition, code);
          return field === undefined ? [] : [{ field, program: compile(text) }];
        }),
      },
    ],
    lexicon: lexiconOf(lexicon),
    files: { placements: "placements.csv", fills: "fills.yaml", lexicon: "lexicon.csv" },
  };
};

/** Runs one family through a channel. */
export const outcomesOf = (
  setup: ChannelSetup,
  ...members: readonly Readonly<Record<string, string>>[]
): readonly Outcome[] => {
  const pipeline = pipelineFor(setup, (_, slot) => ({
    file: "shop.csv",
    row: 2,
    column: attributes.names[slot] ?? "",
  }));
  const products = members.map(productOf);
  return pipeline({ group: undefined, record: undefined, members: products, membersOn: () => products });
};

/** `kind: sentence; sentence` of an outcome. */
export const told = (outcome: Outcome | undefined): string => {
  if (outcome === undefined) return "nothing";
  if (outcome.kind === "left-out") return "left-out";
  const findings = outcome.kind === "ready" ? outcome.findings : outcome.because;
  return `${outcome.kind}: ${findings.map(sentence).join("; ")}`;
};
