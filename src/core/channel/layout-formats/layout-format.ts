/**
 * What a format of files is to a channel's definition: how its settings become a layout, what can be wrong with it, and how
 * a file of it is read back. One file a format, one line in `layout-formats.ts`; its writer stands in `src/layouts/`.
 */
import type { Diagnostic } from "../../diagnostics/diagnostic.js";
import type { LayoutSource } from "../definition-source.js";
import type { Field } from "../field.js";
import type { LayoutCell, FindField } from "../layout-columns.js";
import type { LayoutColumn, LayoutDefinition } from "../layout-definition.js";
import type { LayoutSettings } from "../layout-settings.js";
import type { ReadAs } from "../record-format.js";

/** What every layout has, whatever its format. */
export type CommonSettings = Pick<
  LayoutDefinition,
  "name" | "file" | "columns" | "style" | "encoding" | "packing" | "purposes" | "fileLimits"
>;

/** A layout as its definition writes it, while it is built. */
export interface LayoutParts {
  readonly source: LayoutSource;
  readonly settings: LayoutSettings;
  /** Its columns in order, with those that say something of the row itself. */
  readonly cells: readonly LayoutCell[];
  readonly common: CommonSettings;
  readonly find: FindField;
  /** Takes what is wrong. */
  readonly findings: Diagnostic[];
}

/** The layout of a format; formats that differ in little share one. */
export type LayoutOfFormat<
  Format extends LayoutDefinition["format"],
  Layout extends LayoutDefinition = LayoutDefinition,
> = Layout extends LayoutDefinition ? (Format extends Layout["format"] ? Layout : never) : never;

/** What a format must be able to do for a definition. */
export interface LayoutFormat<Layout extends LayoutDefinition> {
  /** The layout; undefined where what it needs is missing, which is told. */
  build(parts: LayoutParts, format: Layout["format"]): Layout | undefined;
  /** What is wrong between its columns and its settings; why, by the setting. */
  faults?(layout: Layout): readonly { readonly key: string; readonly reason: string }[];
  /** How a file that we wrote is read as a table again; undefined: its rows are not looked up. */
  readBack(layout: Layout): ReadAs | undefined;
  /** Where a column stands in a record of such a file; else under its name. */
  placeOf?(layout: Layout, column: LayoutColumn): string;
  /** Whether its files are about the shop as well, and show its web address. */
  readonly showsShop: boolean;
  /** Fields that it shows of a group, beside those that the group model knows. */
  groupFields?(layout: Layout): readonly Field[];
}
