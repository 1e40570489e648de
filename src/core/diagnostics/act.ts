/**
 * What a person does about a finding and all like it, as data. The words of a command line are made of it elsewhere.
 */
import { assertNever } from "../assert-never.js";
import type { FileNames } from "./file-names.js";

/** What a person can do about a finding, and about all others like it at once. */
export type Act =
  /** A column of data, for all channels that read it. */
  | { readonly act: "column"; readonly attributes: readonly string[] }
  | { readonly act: "fill"; readonly channel: string; readonly field: string; readonly isNew: boolean }
  | { readonly act: "lexicon-row"; readonly channel: string; readonly field: string; readonly term: string }
  | { readonly act: "placement"; readonly channel: string; readonly ourCategory: string }
  | { readonly act: "price-rule"; readonly channel: string }
  /** A decision on groups that vary by more than a category takes. */
  | { readonly act: "group-rule"; readonly channel: string }
  /** Values that only a look at each product can mend. */
  | {
      readonly act: "correction";
      readonly channel: string;
      readonly field: string;
      readonly code: string;
      readonly how: string;
    };

/** Where a finding stands, as far as an act needs it. */
export interface ActPlace {
  readonly code: string;
  readonly channel: string;
  readonly field: string;
}

/** The act that settles a finding with these facts. */
export type SettlingAct<Facts> = (facts: Facts, where: ActPlace) => Act;

/** A column of a file gives these attributes. */
export const giveColumn = (attributes: readonly string[]): Act => ({ act: "column", attributes });

/** Our category is placed. */
export const placeIt = (channel: string, ourCategory: string): Act => ({
  act: "placement",
  channel,
  ourCategory,
});

/** The lexicon gets a row for a term. */
export const addTerm = ({ channel, field }: ActPlace, term: string): Act => ({
  act: "lexicon-row",
  channel,
  field,
  term,
});

/** Another fill of the field, or its first. */
export const fillIt = ({ channel, field }: ActPlace, isNew = false): Act => ({
  act: "fill",
  channel,
  field,
  isNew,
});

/** The channel's price rules change. */
export const changePrices = (channel: string): Act => ({ act: "price-rule", channel });

/** The channel's grouping changes. */
export const regroupThem = (channel: string): Act => ({ act: "group-rule", channel });

/** A look at each product; `how` says what to do there. */
export const correct =
  (how: string): SettlingAct<unknown> =>
  (_, { code, channel, field }) => ({
    act: "correction",
    channel,
    field: field === "" ? code : field,
    code,
    how,
  });

/** A look at each product, and nothing more is known. */
export const correctIt: SettlingAct<unknown> = (facts, where) =>
  correct(
    where.field === ""
      ? "look at each, and correct what it says, in its file or with lexicant set"
      : `correct what ${where.field} is made of, in its file or in a gap sheet`,
  )(facts, where);

/** A row is corrected in the file that it came in. */
export const correctRow: SettlingAct<unknown> = correct("correct the row in its file");

/** What only shows what else is asked for once it is done: nobody can promise that it is enough. */
export const opensMore = (act: Act): boolean =>
  act.act === "placement" || (act.act === "column" && act.attributes.includes("category"));

/** Two findings with the same key are settled together. */
export function actKey(act: Act): string {
  switch (act.act) {
    case "column":
      return `column ${act.attributes.join(" ")}`;
    case "fill":
      return `fill ${act.channel} ${act.field}`;
    case "lexicon-row":
      return `lexicon-row ${act.channel} ${act.field} ${act.term}`;
    case "placement":
      return `placement ${act.channel} ${act.ourCategory}`;
    case "price-rule":
      return `price-rule ${act.channel}`;
    case "group-rule":
      return `group-rule ${act.channel}`;
    case "correction":
      return `correction ${act.channel} ${act.field}`;
    default:
      return assertNever(act);
  }
}

/** What is to be done, in a few words. */
export function actText(act: Act, files: FileNames): string {
  switch (act.act) {
    case "column":
      return `give ${act.attributes.join(" or ")}, in a file or a gap sheet`;
    case "fill":
      return act.isNew
        ? `a fill for ${act.field} in ${files.fillsOf(act.channel)}, or a gap sheet`
        : `change the fill of ${act.field} in ${files.fillsOf(act.channel)}, or a gap sheet`;
    case "lexicon-row":
      return `a row for "${act.term}" in ${files.lexiconOf(act.channel)}: lexicant lexicon ${act.channel}`;
    case "placement":
      return `place "${act.ourCategory}": lexicant place ${act.channel}; what is asked for there shows then`;
    case "price-rule":
      return `the prices, or the bounds in ${files.policyOf(act.channel)}`;
    case "group-rule":
      return `say split or alone in ${files.policyOf(act.channel)} (groups: not_permitted)`;
    case "correction":
      return act.how.replace("{fills}", files.fillsOf(act.channel));
    default:
      return assertNever(act);
  }
}
