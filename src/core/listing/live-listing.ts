import { itemsOf } from "../catalogue/list-text.js";
import type { Field } from "../channel/field.js";
import { readValue } from "../values/read.js";
import type { MaybeBlank, Value } from "../values/value.js";

/** What a channel was last sent of one listing: canonical texts. */
export interface LiveListing {
  readonly name: string | undefined;
  readonly gtin: string | undefined;
  readonly price: string | undefined;
  /** The channel's category, by code. */
  readonly category: string;
  /** What its group varied by. */
  readonly axes: string;
  readonly group: string | undefined;
  /** Whether it is a group's own row, under a SKU that was made for it. */
  readonly isGroup?: true;
  /** Whether it was ended there; its SKU stays known. */
  readonly withdrawn?: true;
  /** Values by field code; what was blank is not there. */
  readonly values: Readonly<Record<string, string>>;
}

/** What a channel has in a field, as the value that it was: every layout writes it as it first did. */
export function liveValue({ values }: Pick<LiveListing, "values">, field: Field): MaybeBlank {
  const text = values[field.code];
  if (text === undefined || text === "") return undefined;
  const one = (part: string): Value => {
    const reading = readValue(field.kind, part);
    return "value" in reading ? reading.value : part;
  };
  return field.list ? itemsOf(text).map(one) : one(text);
}
