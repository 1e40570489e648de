/** Our side of a channel, checked: definition, placements, fills, lexicon, policies. What the pipeline works with. */
import type { AttributeIndex } from "../catalogue/attribute-index.js";
import type { ChannelDefinition } from "../channel/definition.js";
import type { ProductView } from "../catalogue/product.js";
import type { Silence } from "../diagnostics/silence.js";
import type { Sku } from "../ids.js";
import type { Placements } from "../placement/placements.js";
import type { CalendarDate } from "../values/value.js";
import type { IdsOfPart } from "./check/listed-ids.js";
import type { FillBlock } from "./fill/fill-set.js";
import type { Lexicon } from "./fill/lexicon.js";
import type { KnownRefusal } from "./known-refusals.js";
import type { LiveListing } from "./live-listing.js";
import type { PricePolicy, StockPolicy } from "./price/price-policy.js";
import type { Regrouping } from "./regrouping.js";
import type { Selection } from "./select/selection.js";

/** Our side of a channel: what the workspace decided, checked against the definition. */
export interface ChannelSetup {
  readonly channel: string;
  readonly definition: ChannelDefinition;
  /** The catalogue's attributes, and those that only the channel's price rules make. */
  readonly attributes: AttributeIndex;
  readonly selection: Selection;
  readonly placements: Placements;
  readonly prices: PricePolicy | undefined;
  readonly stock: StockPolicy | undefined;
  /** What the channel was last sent of a product, for who watches its prices; undefined where a person means the new ones. */
  readonly lastPrices: ((sku: Sku) => LiveListing["values"] | undefined) | undefined;
  /** What the channel was last sent of a product; undefined where nothing was ever sent. */
  readonly live: ((sku: Sku) => LiveListing | undefined) | undefined;
  /** What the channel has refused of a product and was sent nothing else for since; undefined where it has refused nothing. */
  readonly lastRefusal: ((sku: Sku) => LastRefusal | undefined) | undefined;
  /** What it refused before, of any product, in a person's words. */
  readonly refusals: readonly KnownRefusal[];
  /** Other products that go to this channel with the same barcode. */
  readonly barcodeTwins: (product: ProductView) => readonly Sku[];
  /** The ids of the stretch of the catalogue at hand. */
  readonly ids: IdsOfPart;
  /** Findings that a person has decided not to see here. */
  readonly silences: readonly Silence[];
  readonly regrouping: Regrouping;
  readonly fills: readonly FillBlock[];
  readonly lexicon: Lexicon;
  readonly today: CalendarDate;
  /** Decision files by the names that findings give to a person. */
  readonly files: {
    readonly policy: string;
    readonly placements: string;
    readonly fills: string;
    readonly lexicon: string;
    readonly refusals: string;
  };
}

/** A refusal that nothing came after. */
export interface LastRefusal {
  /** ISO 8601 */
  readonly at: string;
  readonly message: string;
  /** The channel's field that it speaks of, by code; "". */
  readonly field: string;
  /** What was refused, as it was sent. */
  readonly values: LiveListing["values"];
}
