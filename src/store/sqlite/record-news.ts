/** What of a record is news to its layer. */
import { hasLostZeros } from "../../core/catalogue/merge.js";
import { newsToLayer, newsToProduct } from "../../core/catalogue/news.js";
import type { Product } from "../../core/catalogue/product.js";
import { RETRACTED, SAME } from "../../core/catalogue/record.js";
import type { MendedKey } from "../store.js";
import type { CatalogueReader } from "./catalogue-reader.js";
import type { FormerReading } from "./former-reading.js";
import type { LayerState } from "./layer-state.js";
import { productText, type Match } from "./product-matcher.js";
import type { RecordRules } from "./record-fate.js";

interface NewsRules extends RecordRules {
  readonly reader: CatalogueReader;
  /** What the source gave by rules that are no longer its own. */
  readonly former: FormerReading | undefined;
  readonly before: LayerState;
  /** The channel that alone sees what is written. */
  readonly channel: string | undefined;
}

/** What of a record is news, with numbers that are none but for zeros that a spreadsheet took. */
export interface FoundNews {
  readonly texts: readonly string[];
  readonly zerosKept: readonly MendedKey[];
}

const mayHaveLostZeros = /^[1-9]\d{0,13}$/;

/** Tells what of a revision's records is news. */
export class RecordNews {
  private tookBackFrom: number | undefined;

  constructor(private readonly rules: NewsRules) {}

  /** What of a record is news to the layer, or to the product where the plan compares with that. */
  of(match: Match, texts: readonly string[], said: readonly string[]): FoundNews {
    const { plan, columns, reader, channel, former, before } = this.rules;
    const { known } = match;
    let merged: { readonly product: Product | undefined } | undefined;
    const product = (): Product | undefined =>
      (merged ??= { product: reader.productById(known.id, channel) }).product;
    const by = former === undefined ? undefined : before.saidBy(known.id, columns);
    const zerosKept: MendedKey[] = [];
    const news = columns.all.map(({ attribute }, index): string => {
      const text = texts[index] ?? "";
      const own = { attribute, text, said: said[index] ?? "", by: by?.[index] ?? 0 };
      const found = this.newsOf(own, match, product);
      if (plan.kind !== "import" || !mayHaveLostZeros.test(found) || !columns.isPlainText(attribute))
        return found;
      const now = productText(product(), attribute);
      if (now === undefined || !hasLostZeros(found, now)) return found;
      // It is kept as this layer's word, over which the other one shows: by itself it would hold again.
      zerosKept.push({ key: attribute, value: found, now });
      return found;
    });
    return { texts: news, zerosKept };
  }

  /** The revision of before whose rules were others, where values that those gave were taken back or read anew. */
  formerRules(): number | undefined {
    return this.tookBackFrom;
  }

  private newsOf(one: SaidText, { key }: Match, product: () => Product | undefined): string {
    const { compare, keys, writesKeys } = this.rules.plan;
    const { attribute, text } = one;
    // A product is its SKU, which no layer changes; and what finds products says nothing of them to one channel.
    if (attribute === "sku") return "";
    if (this.rules.plan.channel !== undefined && (attribute === "group" || keys.includes(attribute)))
      return "";
    if (keys.includes(attribute) && (attribute === key || writesKeys !== true))
      return this.newsOfKey(one, attribute === key, product);
    return compare === "merged" ? newsToProduct(text, productText(product(), attribute)) : this.toLayer(one);
  }

  /** What a row was matched by is no news from it; other keys of it find products too, and one that says otherwise is as likely to be the damaged one. */
  private newsOfKey(one: SaidText, isMatched: boolean, product: () => Product | undefined): string {
    const { plan } = this.rules;
    const { attribute, text, said } = one;
    if (!isMatched && plan.writesKeys === "where-blank") {
      const has = productText(product(), attribute);
      if (has === undefined || has === said) return this.toLayer(one);
    }
    // A source that only updates wrote it when it was no key yet: that is its word no more.
    if (plan.mode === "update" && said !== "" && this.isStale(one)) {
      this.tookBackFrom = one.by;
      return RETRACTED;
    }
    if (isMatched) return "";
    if (text !== "" && text === said) return SAME;
    return text === "" && plan.replace && said !== "" ? RETRACTED : "";
  }

  private isStale({ attribute, by }: SaidText): boolean {
    return by > 0 && this.rules.former?.isStale(attribute, by) === true;
  }

  private toLayer(one: SaidText): string {
    const { text, said } = one;
    // What other rules gave is no word of this source any more.
    const isStale = this.isStale(one);
    const news = newsToLayer(text, said, this.rules.plan.replace || isStale);
    if (isStale && said !== "" && news !== SAME) this.tookBackFrom = one.by;
    return news;
  }
}

/** A text of a row, with what its layer said before and by which revision. */
interface SaidText {
  readonly attribute: string;
  readonly text: string;
  readonly said: string;
  readonly by: number;
}
