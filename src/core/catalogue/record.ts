/** A cell that says "none" on purpose: it clears what lower layers say. A blank cell says nothing. */
export const CLEARED = "\u0018";

/** The word by which a person says so in our own sheets. */
export const CLEAR_WORD = "(none)";

/** Whether a text is a clear word with backslashes before it, or the word itself: it cannot stand in a cell as it is. */
const isLikeWord = (text: string, word: string): boolean =>
  word !== "" && text.endsWith(word) && /^\\*$/.test(text.slice(0, text.length - word.length));

/** A text as it stands in a cell of a sheet that has a clear word: one that is just that word has a backslash before it. */
export const besideClearWord = (text: string, word: string): string =>
  isLikeWord(text, word) ? `\\${text}` : text;

/** What a cell means where there is a clear word: `(none)` clears, `\(none)` is the text "(none)". */
export function clearedOrText(cell: string, word: string): string {
  if (cell === word) return CLEARED;
  return isLikeWord(cell, word) ? cell.slice(1) : cell;
}

/** A layer takes its opinion back: what lower layers say shows again. */
export const RETRACTED = "\u0019";

/**
 * A delivery says again what its layer said before. The text stands in the layer's latest record below that has one; before
 * that record is undone, it is written out here.
 */
export const SAME = "\u001a";

/**
 * What a cell held and could not be read, or reads as something impossible: no opinion, so that what lies below shows. The
 * written text stands behind it, for people to find.
 */
const UNREAD = "\u0017";

/** The same where the delivery takes the place of all that its layer said: what the layer said before goes too. */
const UNREAD_INSTEAD = "\u0016";

/** A cell's text as what could not be read. */
export const unread = (written: string): string => UNREAD + written;

/** Whether a stored text stands for a cell that could not be read. */
export function isUnread(text: string): boolean {
  const code = text.charCodeAt(0);
  return code === 0x17 || code === 0x16;
}

/** Whether such a text also takes back what its layer said before. */
export const takesBack = (text: string): boolean => text === RETRACTED || text.startsWith(UNREAD_INSTEAD);

/** The text of a cell that could not be read, taking back what its layer said. */
export const unreadInstead = (text: string): string => UNREAD_INSTEAD + text.slice(1);

/** What stood in a cell that could not be read. */
export const writtenIn = (text: string): string => text.slice(1);

/** Parts of a list value within one stored text. */
export const LIST_SEPARATOR = "\u001e";

/** Joins a record's texts in one stored text; cleaned cells cannot hold it. */
export const TEXT_SEPARATOR = "\u001f";

/** What one text of a record is: an attribute, read from a column, for all channels or for one. */
export interface RecordColumn {
  readonly attribute: string;
  /** The column that it is read from: its name, or those that an expression or the rows of a file read. */
  readonly column: string;
  /** The channel that alone is to see it: it goes into a revision for that channel, and into no other. */
  readonly channel?: string | undefined;
}

/** A column by itself; its channel is said only where there is one, since most have none. */
export const recordColumn = ({ attribute, column, channel }: RecordColumn): RecordColumn =>
  channel === undefined ? { attribute, column } : { attribute, column, channel };

/** Where a value entered: the revision that brought it, and the row of its file (header included, from 1). */
export interface Origin {
  readonly revision: number;
  readonly row: number;
}

/** The revision of values that no file brought: they follow from other products, as a bundle's stock from its parts. */
export const COMPUTED_REVISION = 0;

/** One layer's opinion about one product: canonical texts by the attribute slots of its revision. "" is no opinion. */
export interface PartialRecord {
  readonly origin: Origin;
  /** Height of its layer; within a layer what a group says lies below what its member says. */
  readonly layer: number;
  /** Attribute slots of the texts, shared by all records of the revision. A slot below 0 is passed over. */
  readonly slots: readonly number[];
  readonly texts: readonly string[];
  /** Whether a person wrote it as single values, rather than a file. */
  readonly isByHand?: boolean;
  /** Whether none of the texts takes anything back or could not be read; undefined where nobody looked. */
  readonly isPlain?: boolean;
}

/** Whether one text of several joined ones takes something back or could not be read. */
export const mayTakeBack = (joined: string): boolean => special.test(joined);

// eslint-disable-next-line no-control-regex
const special = /[\u0016\u0017\u0019]/;
