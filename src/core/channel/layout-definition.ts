import type { Field } from "./field.js";

/** A piece of a value: the number or the currency of a price, the number or the unit of a measure. */
export type ValuePart = "whole" | "amount" | "currency" | "unit";

/** One column or element of a file. */
export interface LayoutColumn {
  readonly name: string;
  readonly field: Field;
  readonly part: ValuePart;
  /** How a list's values stand in one cell; undefined: the layout repeats the element. */
  readonly joinedBy: string | undefined;
}

interface LayoutOf<Format extends string> {
  readonly format: Format;
  readonly name: string;
  readonly file: string;
  readonly columns: readonly LayoutColumn[];
}

export interface RssLayout extends LayoutOf<"rss"> {
  readonly prefix: string;
  readonly namespace: string;
  /** Fields shown in the standard elements of an RSS 2.0 item. */
  readonly item: {
    readonly title: Field;
    readonly link: Field;
    readonly description: Field;
    readonly guid: Field;
  };
}

export type TsvLayout = LayoutOf<"tsv">;

export const statedFormats = ["csv", "xlsx", "xml", "atom", "json", "jsonl", "jsonld"] as const;

/** A layout that the definition states and that cannot be written yet. */
export interface StatedLayout extends LayoutOf<(typeof statedFormats)[number]> {
  readonly settings: Readonly<Record<string, unknown>>;
}

export type LayoutDefinition = RssLayout | TsvLayout | StatedLayout;
