/** What of a record is news to its layer. */
import { newsToLayer, newsToProduct } from "../../core/catalogue/news.js";
import { SAME } from "../../core/catalogue/record.js";
import type { CatalogueReader } from "./catalogue-reader.js";
import type { formerReading } from "./former-reading.js";
import { productText, type Match } from "./product-matcher.js";
import type { RecordRules } from "./record-fate.js";

interface NewsRules extends RecordRules {
  readonly reader: CatalogueReader;
  /** Attributes whose former rules are no longer the source's, and the revision that read by them. */
  readonly former: ReturnType<typeof formerReading>;
  /** The channel that alone sees what is written. */
  readonly channel: string | undefined;
}

/** Tells what of a revision's records is news. */
export class RecordNews {
  private tookBack = false;

  constructor(private readonly rules: NewsRules) {}

  /** What of a record is news to the layer, or to the product where the plan compares with that. */
  of({ known, key }: Match, texts: readonly string[], said: readonly string[]): readonly string[] {
    const { plan, columns, reader, channel } = this.rules;
    const { compare, keys, writesKeys } = plan;
    const product = compare === "merged" ? reader.productById(known.id, channel) : undefined;
    return columns.all.map(({ attribute }, index) => {
      // A product is its SKU, which no layer changes; and what a row was matched by is no news from it.
      if (attribute === "sku" || attribute === key) return "";
      const text = texts[index] ?? "";
      // Other keys of the row find products too: one that says otherwise is as likely to be the damaged one.
      if (writesKeys !== true && keys.includes(attribute))
        return text !== "" && text === said[index] ? SAME : "";
      return compare === "merged"
        ? newsToProduct(text, productText(product, attribute))
        : this.toLayer(attribute, text, said[index] ?? "");
    });
  }

  /** The revision of before whose rules were others, where values that those gave were taken back or read anew. */
  formerRules(): number | undefined {
    return this.tookBack ? this.rules.former?.revision : undefined;
  }

  private toLayer(attribute: string, text: string, said: string): string {
    const { plan, former } = this.rules;
    // What other rules gave is no word of this source any more.
    const isStale = former?.attributes.has(attribute) === true;
    const news = newsToLayer(text, said, plan.replace || isStale);
    if (isStale && said !== "" && news !== SAME) this.tookBack = true;
    return news;
  }
}
