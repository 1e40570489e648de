/** Values of a file held against those of the catalogue, in a form in which a spreadsheet's damage does not count. */
import { gtin14, readGtin } from "../../values/gtin.js";
import { fold } from "../../values/text.js";
import { itemsOf } from "../list-text.js";
import {
  knownAttributes,
  type FileSample,
  type KnownAttribute,
  type KnownShares,
} from "./source-proposal.js";

const LOOKED_AT = 400;

/** The form in which a value of a file is found among those of the catalogue: a spreadsheet may have cut its zeros. */
export function comparable(attribute: KnownAttribute, text: string): string {
  if (attribute === "gtin") {
    const reading = readGtin(text);
    return "digits" in reading ? gtin14(reading.digits) : "";
  }
  const trimmed = text.trim();
  if (attribute === "sku" || attribute === "mpn") return trimmed.replace(/^0+(?=\d+$)/, "");
  return fold(trimmed);
}

/** The different values of each column that are worth asking the catalogue for. */
export function valuesToAsk({ header, rows }: FileSample): readonly ReadonlySet<string>[] {
  return header.map(
    (column, at) =>
      new Set(
        column === ""
          ? []
          : rows
              .slice(0, LOOKED_AT)
              .flatMap((cells) => itemsOf(cells[at] ?? ""))
              .filter((text) => text !== "" && text.length <= 120),
      ),
  );
}

/** Shares of each column's values that the catalogue has, from its own values by attribute. */
export function beside(
  sample: FileSample,
  known: Readonly<Partial<Record<string, Iterable<string>>>>,
): readonly KnownShares[] {
  const sets = new Map(
    knownAttributes.map((attribute) => [
      attribute,
      new Set([...(known[attribute] ?? [])].map((text) => comparable(attribute, text)).filter(Boolean)),
    ]),
  );
  return valuesToAsk(sample).map((values): KnownShares => {
    if (values.size === 0) return {};
    const shares: Partial<Record<KnownAttribute, number>> = {};
    for (const [attribute, own] of sets) {
      let found = 0;
      for (const value of values) if (own.has(comparable(attribute, value))) found++;
      if (found > 0) shares[attribute] = found / values.size;
    }
    return shares;
  });
}
