import { attributeIndex } from "../../src/core/catalogue/attribute-index.js";
import type { Family } from "../../src/core/catalogue/family.js";
import { product } from "../../src/core/catalogue/product.js";
import { asSku } from "../../src/core/ids.js";
import { program } from "../../src/core/language/program.js";
import type { ChannelSetup } from "../../src/core/listing/channel-setup.js";
import { idsOfPart } from "../../src/core/listing/check/listed-ids.js";
import { barcodeTwinsOn } from "../../src/core/listing/check/barcode-twins.js";
import type { LiveListing } from "../../src/core/listing/live-listing.js";
import { lexiconOf, type LexiconRow } from "../../src/core/listing/fill/lexicon.js";
import { everything, type Selection } from "../../src/core/listing/select/selection.js";
import { fillNames } from "../../src/core/listing/fill/fill-names.js";
import type { Listing, Outcome } from "../../src/core/listing/listing.js";
import type { PricePolicy, StockPolicy } from "../../src/core/listing/price/price-policy.js";
import { pipelineFor } from "../../src/core/listing/pipeline.js";
import { placementsOf } from "../../src/core/placement/placements.js";
import { fieldNamed, type ChannelDefinition } from "../../src/core/channel/definition.js";
import { sentence } from "../../src/workspace/wording.js";
import { money } from "../../src/core/values/money.js";
import { shownText } from "../../src/core/values/show.js";
import { surroundings } from "./evaluate.js";

const attributes = attributeIndex(
  `sku group varies_by name price list_price color weight images category quantity sale_price sale_from sale_until cost
  price@EUR sale_price@EUR sale_until@EUR size gtin brand material description keywords answer_hue digital hazard list_on keep_off sell_in first_image`.split(
    /\s+/,
  ),
);
export const productOf = (texts: Readonly<Record<string, string>>) =>
  product(
    asSku(texts["sku"] ?? ""),
    attributes,
    attributes.names.map((name) => texts[name]),
    attributes.names.map((name) => (texts[name] === undefined ? undefined : { revision: 1, row: 2 })),
  );

type Texts = Readonly<Record<string, string>>;

type BlockScope =
  | { readonly scope: "our-category"; readonly path: string }
  | { readonly scope: "channel-category"; readonly code: string }
  | { readonly scope: "products"; readonly skus: ReadonlySet<string> };

const fills: Texts = {
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
    blocks = [],
    prices,
    stock,
    sent = {},
    live,
    shared = [],
    regrouping = "hold",
  }: {
    readonly lexicon?: readonly LexiconRow[];
    readonly select?: string;
    readonly selection?: Partial<Selection>;
    /** Fills beside or in the place of the usual ones. */
    readonly fills?: Texts;
    /** Nearer blocks of fills. */
    readonly blocks?: readonly (BlockScope & { readonly texts: Texts })[];
    readonly prices?: {
      readonly rules?: Texts;
      readonly lowest?: string;
      readonly highest?: string;
    } & Partial<Pick<PricePolicy, "outside" | "sales" | "greatestChange">>;
    readonly stock?: Partial<StockPolicy>;
    /** Prices that were sent last, by SKU. */
    readonly sent?: Texts;
    /** What the channel has, by SKU. */
    readonly live?: Readonly<Record<string, LiveListing>>;
    readonly regrouping?: ChannelSetup["regrouping"];
    /** Products that share a barcode. */
    readonly shared?: readonly (readonly Texts[])[];
  } = {},
): ChannelSetup => {
  const names = fillNames(attributes, definition);
  let line = 0;
  const compile = (text: string) => {
    const ready = program({ text, place: { file: "fills.yaml", line: ++line } }, names, surroundings);
    if (ready.kind === "faulty") throw new Error(ready.findings.map(sentence).join("\n"));
    return ready;
  };
  const compiled = (texts: Texts) =>
    Object.entries(texts).flatMap(([code, text]) => {
      const field = fieldNamed(definition, code);
      return field === undefined ? [] : [{ field, program: compile(text) }];
    });
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
    prices:
      prices === undefined
        ? undefined
        : {
            rules: Object.entries(prices.rules ?? {}).map(([attribute, text]) => ({
              attribute,
              slot: attributes.slot(attribute) ?? -1,
              program: compile(text),
            })),
            lowest: prices.lowest === undefined ? undefined : compile(prices.lowest),
            highest: prices.highest === undefined ? undefined : compile(prices.highest),
            outside: prices.outside ?? "hold",
            sales: prices.sales ?? "all",
            greatestChange: prices.greatestChange,
            exchange(amount, currency) {
              const rate = surroundings.rates?.find(amount.currency, currency, surroundings.today);
              return rate === undefined
                ? undefined
                : money(amount.amount.times(rate.times).div(rate.by), currency);
            },
          },
    stock: stock === undefined ? undefined : { heldBack: 0, share: 100, atMost: undefined, ...stock },
    lastPrices: (sku) => (sent[sku] === undefined ? undefined : { price: sent[sku] }),
    live: live === undefined ? undefined : (sku) => live[sku],
    lastRefusal: undefined,
    refusals: [],
    ids: idsOfPart(),
    barcodeTwins: barcodeTwinsOn(
      shared.map((products) => products.map(productOf)),
      {
        channel: "stall",
        selection: everything,
      },
    ),
    silences: [],
    regrouping,
    today: surroundings.today,
    placements: placementsOf([
      placement("Tools", "", "g.t"),
      placement("Tools > Spades", "", "g.t.s"),
      placement("", "GLOVE", "w.t"),
    ]),
    fills: [
      { scope: "all", fills: compiled({ ...fills, ...own }) },
      ...blocks.map(
        ({ texts, ...scope }) => ({ ...scope, fills: compiled(texts) }) as ChannelSetup["fills"][number],
      ),
    ],
    lexicon: lexiconOf(lexicon),
    files: {
      policy: "channel.yaml",
      refusals: "known-refusals.csv",
      placements: "placements.csv",
      fills: "fills.yaml",
      lexicon: "lexicon.csv",
    },
  };
};

/** Products as one family. */
export const familyOf = (members: readonly Readonly<Record<string, string>>[]): Family => {
  const products = members.map(productOf);
  return { number: 1, group: undefined, record: undefined, members: products, membersOn: () => products };
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
  return pipeline(familyOf(members));
};

interface FamilyParts {
  /** The group's own record. */
  readonly record?: Texts;
  /** The members as the channel sees them, where that differs. */
  readonly onChannel?: readonly Texts[];
}

/** The listings of one family as they are filled, before any check. */
export const listingsOf = (
  setup: ChannelSetup,
  members: readonly Texts[],
  { record, onChannel }: FamilyParts = {},
): readonly Listing[] => {
  const listings: Listing[] = [];
  const pipeline = pipelineFor(
    setup,
    () => undefined,
    (listing) => listings.push(listing),
  );
  const products = members.map(productOf);
  // A value that a channel's own layer gives comes from another revision.
  const own = onChannel?.map((texts, index) =>
    product(
      asSku(texts["sku"] ?? ""),
      attributes,
      attributes.names.map((name) => texts[name]),
      attributes.names.map((name) =>
        texts[name] === undefined
          ? undefined
          : { revision: texts[name] === members[index]?.[name] ? 1 : 2, row: 2 },
      ),
    ),
  );
  pipeline({
    group: products[0]?.group,
    record: record === undefined ? undefined : productOf(record),
    members: products,
    number: 1,
    membersOn: () => own ?? products,
  });
  return listings;
};

/** A field of a listing as text. */
export const filled = ({ plan, value }: Listing, code: string): string => {
  const planned = plan.fields.find(({ rule }) => rule.field.code === code);
  return planned === undefined ? "no such field" : shownText(value(planned.rule.field.slot));
};

/** What a fill's field came to for one product. */
export const filledAs = (setup: ChannelSetup, texts: Texts, code: string): string => {
  const [listing] = listingsOf(setup, [texts]);
  return listing === undefined ? "no listing" : filled(listing, code);
};

/** `kind: sentence; sentence` of an outcome. */
export const told = (outcome: Outcome | undefined): string => {
  if (outcome === undefined) return "nothing";
  return `${outcome.kind}: ${outcome.findings.map(sentence).join("; ")}`;
};
