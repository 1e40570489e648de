/**
 * How files get to a channel and answers back, as data of the definition: addresses with blanks, words for states, what
 * may be sent again.
 */
import type { RecordFormat } from "./record-format.js";
import { ownOf } from "../own.js";
import type { TextAlteration } from "../values/altered.js";

/** How a file gets to a channel: as a part of a form, as the body of a PUT, or dropped into a folder. */
export const sendingWays = ["form", "put", "drop"] as const;

export type SendingWay = (typeof sendingWays)[number];

/**
 * Why a sending that may have arrived can be done again: a key tells the channel that it is the same (`key`), the channel
 * can be asked for it (`find`), it does no harm (`harmless`); or it cannot (`never`), and a person looks.
 */
export const repeatings = ["key", "find", "harmless", "never"] as const;

export type Repeating = (typeof repeatings)[number];

/**
 * Where something is asked for, from the account's address on: a path in which `{file}`, `{job}`, `{action}`,
 * `{purpose}` and `{version}` may stand.
 */
export type AddressPattern = string;

/** How one file gets to the channel. */
export interface SendDefinition {
  readonly as: SendingWay;
  readonly to: AddressPattern;
  /** The layout whose files are sent; the first, where none is named. */
  readonly layout: string | undefined;
  /** The name under which a file goes, with `{stem}`, `{ending}`, `{number}`, `{action}`, `{purpose}` and `{account}`. */
  readonly name: string;
  readonly filePart: string;
  /** Further parts of the form, by name; patterns like an address. */
  readonly parts: Readonly<Record<string, string>>;
  readonly again: Repeating;
  readonly keyHeader: string;
  /** Where the job's reference stands in the answer; "": a file's name is its reference. */
  readonly job: string;
}

/** How far the channel is with a file, in an answer of JSON. */
export interface ProgressDefinition {
  readonly from: AddressPattern;
  readonly state: string;
  readonly percent: string;
  readonly because: string;
  /** States in which there is a report. */
  readonly done: readonly string[];
  /** States in which the channel took nothing of the file. */
  readonly thrownOut: readonly string[];
}

/** How the channel's export of live listings is read: rows like those of the files, with columns of the layout's names. */
export interface LiveLayout {
  readonly from: AddressPattern;
  readonly format: RecordFormat;
  readonly layout: string | undefined;
  /** The path of a record in a tree; "" finds it. */
  readonly records: string;
  /** The column with the id that the channel gave; "": none. */
  readonly id: string;
  /** The column that tells a group's own row, and its word for it; "": there are none. */
  readonly kind: string;
  readonly groupKind: string;
  /** What the channel does to texts by itself, by field or `*`: what differs only so is the same. */
  readonly alters: Readonly<Record<string, readonly Alteration[]>>;
}

/** Letters made small or large, spaces run together, punctuation changed, items put in another order. */
export type Alteration = TextAlteration;

/** Ways in which a channel changes texts by itself; such a difference is none. */
export const alterations = ["case", "spaces", "marks", "order"] as const satisfies readonly Alteration[];

/** How a channel takes files, says what became of them, and shows what it has. */
export interface ExchangeDefinition {
  readonly send: SendDefinition;
  /** Where a file is looked at without effect. */
  readonly trial: AddressPattern | undefined;
  /** How the token is shown: a header and its text around `{token}`. */
  readonly token: { readonly header: string; readonly says: string } | undefined;
  readonly progress: ProgressDefinition | undefined;
  /** Where the channel is asked whether it has a file of a name; for a folder, where a file lies once it was taken. */
  readonly find: { readonly from: AddressPattern; readonly job: string } | undefined;
  readonly report: AddressPattern | undefined;
  readonly live: LiveLayout | undefined;
  readonly categories: AddressPattern | undefined;
}

/** An address or a name with its marks filled in; each filled piece is one step of a path at most. */
export function filledPattern(
  pattern: string,
  facts: Readonly<Record<string, string>>,
  shown: (text: string) => string = encodeURIComponent,
): string {
  return pattern.replace(/\{([a-z]+)\}/g, (whole, name: string) => {
    const fact = ownOf(facts, name);
    if (fact === undefined) return whole;
    // These two would lead up the path, however they are written.
    return fact === "." || fact === ".." ? "_" : shown(fact);
  });
}
