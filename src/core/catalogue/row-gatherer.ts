/**
 * Gathers rows of one product that stand anywhere in a file: the first is the product's, further ones add to what they may
 * add to, in the order that a column says. It waits for the end of the file, and holds a text for each cell that is read.
 */
import { addAll } from "../many.js";
import type { Diagnostic } from "../diagnostics/diagnostic.js";
import type { Doubt } from "./cell-reader.js";
import { itemsOf } from "./list-text.js";
import { isUnread, LIST_SEPARATOR } from "./record.js";
import type { JoinedRecord } from "./row-joiner.js";
import type { ReadRow } from "./row-reader.js";
import { attributeKind, withoutMark } from "./vocabulary.js";
import type { KindOf } from "../values/attribute-kind.js";

/** A product's row, read. */
type ProductRow = Extract<ReadRow, { texts: unknown }>;

/** One value of a list, with its place in the order. */
interface PlacedItem {
  readonly item: string;
  readonly order: number;
}

interface Gathered<Row> {
  readonly from: Row;
  readonly row: number;
  readonly texts: string[];
  /** Values of lists, by where the list stands among the texts. */
  readonly items: Map<number, PlacedItem[]>;
  readonly findings: Diagnostic[];
  readonly doubts: Doubt[];
  hasFurther: boolean;
}

/** Rows that are gathered. */
export interface RowGatherer<Row> {
  /** How many products there are. */
  readonly count: number;
  /** Takes a row; false where an earlier one of the product says otherwise, so that it cannot be taken. */
  push(row: ProductRow, key: string, from: Row): boolean;
  /** The products in the order of their first rows; it begins anew then. */
  end(): readonly JoinedRecord<Row>[];
}

// What has no place comes last.
const LAST = Number.POSITIVE_INFINITY;

/** Begins to gather; `attributes` are those of the texts, which may grow. */
export function rowGatherer<Row>(
  adds: ReadonlySet<string>,
  attributes: readonly { readonly attribute: string }[],
  kindOf: KindOf = attributeKind,
): RowGatherer<Row> {
  let found = new Map<string, Gathered<Row>>();
  const nameAt = (at: number): string => attributes[at]?.attribute ?? "";
  const mayAdd = (at: number): boolean => adds.has(nameAt(at)) || adds.has(withoutMark(nameAt(at)));
  const isList = (at: number): boolean => kindOf(nameAt(at)).list;
  const says = (text: string | undefined): text is string =>
    text !== undefined && text !== "" && !isUnread(text);
  const addItems = (gathered: Gathered<Row>, at: number, text: string, order: number): void => {
    const own = gathered.items.get(at) ?? [];
    gathered.items.set(at, own);
    for (const item of itemsOf(text)) if (item !== "") own.push({ item, order });
  };
  const begin = ({ row, texts, findings, doubts, order }: ProductRow, from: Row): Gathered<Row> => {
    const begun: Gathered<Row> = {
      from,
      row,
      texts: [...texts],
      items: new Map(),
      hasFurther: false,
      findings: [...findings],
      doubts: [...doubts],
    };
    texts.forEach((text, at) => {
      if (says(text) && mayAdd(at) && isList(at)) addItems(begun, at, text, order ?? LAST);
    });
    return begun;
  };
  return {
    get count() {
      return found.size;
    },
    push(row, key, from) {
      const known = found.get(key);
      if (known === undefined) {
        found.set(key, begin(row, from));
        return true;
      }
      const { texts, findings, doubts, order } = row;
      const isApart = texts.some((text, at) => {
        if (!says(text) || (mayAdd(at) && isList(at))) return false;
        const before = known.texts[at];
        return says(before) ? before !== text : !mayAdd(at);
      });
      // A row that says just what was said is another one of it all the same.
      const isNew = texts.some(
        (text, at) => says(text) && mayAdd(at) && (isList(at) || !says(known.texts[at])),
      );
      if (isApart || !isNew) return false;
      known.hasFurther = true;
      addAll(known.findings, findings);
      addAll(known.doubts, doubts);
      texts.forEach((text, at) => {
        if (text === "" || !mayAdd(at)) return;
        while (known.texts.length <= at) known.texts.push("");
        if (says(text) && isList(at)) addItems(known, at, text, order ?? LAST);
        else if (!says(known.texts[at])) known.texts[at] = text;
      });
      return true;
    },
    end() {
      const all = [...found.values()];
      found = new Map();
      return all.map(({ items, texts, ...one }) => {
        for (const [at, placed] of items) {
          // Sorting keeps those of one place in the order of the file.
          const sorted = placed.sort((a, b) => (a.order === b.order ? 0 : a.order - b.order));
          texts[at] = [...new Set(sorted.map(({ item }) => item))].join(LIST_SEPARATOR);
        }
        return { ...one, kind: "product", texts };
      });
    },
  };
}
