/** What a person wants in the files: purpose, choice of products, layouts. */
import type { BuildKind, LedgerState } from "../../store/ledger.js";
import type { ConfirmedPrices } from "./confirmed-prices.js";
import type { Choice } from "../choice/chosen.js";
import { asSku } from "../../core/ids.js";
import type { ProductView } from "../../core/catalogue/product.js";
import { fieldNamed, type ChannelDefinition } from "../../core/channel/definition.js";
import { type PurposeName } from "../../core/channel/purpose-names.js";
import type { Field } from "../../core/channel/field.js";
import type { LayoutDefinition } from "../../core/channel/layout-definition.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { nearest } from "../../core/values/nearest.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import type { FileFamily } from "../../core/listing/shape/file-family.js";
import { purposeFields, type PurposeFacts } from "../../core/purpose/purpose.js";

/** What a person wants in the files. */
export interface BuildWishes {
  readonly purpose: PurposeName;
  /** Fields by code, for `amend`. */
  readonly only: readonly string[] | undefined;
  readonly changedOnly: boolean;
  readonly keepLive: boolean;
  /** At most so many listings, whole groups; for a trial run. */
  readonly limit: number;
  readonly choice: Choice;
  /** Which of the channel's builds it is: one of products by choice never takes the place of the whole file. */
  readonly kind: BuildKind;
  /** SKUs to be withdrawn, known to the catalogue or not; undefined: those of the choice, or what left the selection. */
  readonly ending: readonly string[] | undefined;
  /** Prices that a person has confirmed, however much they changed. */
  readonly confirmedPrices: ConfirmedPrices | undefined;
  /** Whether a person confirmed that many listings end. */
  readonly confirmed: boolean;
  /** What the files are held against: what the channel was sent, or what its own export showed. */
  readonly against?: LedgerState;
  /** Whether nothing is to stay of it. */
  readonly isTrial: boolean;
  /** ISO 8601 time. */
  readonly at: string;
}

const namedFields = (codes: readonly string[], definition: ChannelDefinition): ReadonlySet<Field> =>
  new Set(
    codes.map((code) => {
      const field = fieldNamed(definition, code);
      if (field !== undefined) return field;
      const near = nearest(code, definition.fieldNames.all);
      throw new Refusal([diagnostic("unknown-field", { field: code, nearest: near })]);
    }),
  );

/** Whether a listing's product was chosen, for one channel. */
export const meantOn =
  ({ choice }: Pick<BuildWishes, "choice">, channel: string) =>
  (product: ProductView): boolean =>
    choice.isMeant(product, channel);

/** The definition's rule for a purpose, with what the ledger knows. */
export function purposeFactsFor(
  { definition, live }: ChannelSetup,
  { purpose, only, changedOnly, keepLive }: BuildWishes,
): PurposeFacts {
  const rule = definition.purposeRules.find((one) => one.purpose === purpose) ?? {
    purpose,
    blank: "leave" as const,
    must: [],
    may: [],
    opens: false,
    action: "",
  };
  return {
    purpose,
    rule,
    definition,
    changedOnly,
    keepLive,
    fields: purposeFields(definition, rule),
    only: only === undefined ? undefined : namedFields(only, definition),
    live: (sku) => live?.(asSku(sku)),
  };
}

/** A channel's layouts that have files of a purpose: all, where none says for what it is. */
export function layoutsFor(
  { definition }: Pick<ChannelSetup, "definition">,
  purpose: PurposeName,
): readonly LayoutDefinition[] {
  return definition.layouts.filter(({ purposes }) => purposes === undefined || purposes.includes(purpose));
}

/** A layout with the columns that a purpose lets into its files, under a name of its own kind. */
export function layoutFor(
  layout: LayoutDefinition,
  { purpose, rule }: Pick<PurposeFacts, "purpose" | "rule">,
  kind: BuildKind = purpose,
): LayoutDefinition {
  if (kind === "full") return layout;
  const file = layout.file.replace(/(\.[^.]*)?$/, `-${kind}$1`);
  if (purpose === "full") return { ...layout, file };
  const allowed = new Set<string>(rule.may.length === 0 ? [] : [...rule.must, ...rule.may]);
  const isAllowed = ({ code }: Field): boolean => allowed.size === 0 || allowed.has(code);
  const columns = layout.columns.filter(({ field }) => isAllowed(field));
  return "cells" in layout
    ? {
        ...layout,
        file,
        columns,
        cells: layout.cells.filter((cell) => !("field" in cell) || isAllowed(cell.field)),
      }
    : { ...layout, file, columns };
}

/** A layout's file under this build's name: numbered where the channel takes each name once, or where the name says so. */
export function named(
  layout: LayoutDefinition,
  { definition, today }: ChannelSetup,
  /** The number of this build. */
  number: number,
): LayoutDefinition {
  const { file } = layout;
  const pattern =
    definition.fileLimits.nameOnce && !file.includes("{count}")
      ? file.replace(/(\.[^.]*)?$/, "-{count}$1")
      : file;
  return {
    ...layout,
    file: pattern.replaceAll("{count}", () => String(number)).replaceAll("{date}", today.iso),
  };
}

/** A family with the members that were chosen; its own row goes with them. */
export function chosenOf(
  { group, members }: FileFamily,
  isMeant: (product: ProductView) => boolean,
): FileFamily | undefined {
  const chosen = members.filter(({ listing }) => listing !== undefined && isMeant(listing.product));
  return chosen.length === 0 ? undefined : { group, members: chosen };
}
