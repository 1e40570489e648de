/**
 * Makers of options: how one is written, what may stand behind it, and the type that the work gets. A command's table
 * is made of these.
 */
import { isCurrency } from "../../core/values/currencies.js";
import type * as validators from "./validators.js";

/** What options are checked by, which is loaded when an option is there to be checked. */
type Validator = typeof validators;

/** One option of a command, once for all: how it is written, what it says in the help, what may stand there, what comes of it. */
export interface Option<Value> {
  /** As Commander takes it: `--limit <count>`. */
  readonly flags: string;
  readonly help: string;
  /** Whether it may be given several times. */
  readonly repeats: boolean;
  /** What a written value is, before it is checked. */
  read(written: string): unknown;
  /** What must hold of it; undefined for one that is there or not. */
  readonly rules: ((validator: Validator) => readonly PropertyDecorator[]) | undefined;
  /** The words that may stand there, where they are few. */
  readonly words?: readonly string[];
  /** For the compiler alone: what a command is given. */
  readonly value?: Value;
}

const asWritten = (written: string): unknown => written;

const asNumber = (written: string): unknown => (/^\d{1,12}$/.test(written) ? Number(written) : written);

/** One that is there or not. */
export const flag = (flags: string, help: string): Option<boolean> => ({
  flags,
  help,
  repeats: false,
  read: asWritten,
  rules: undefined,
});

/** A text of so many characters at most; `message` says what it is. */
export const text = (
  flags: string,
  help: string,
  message: string,
  most = 1000,
): Option<string | undefined> => ({
  flags,
  help,
  repeats: false,
  read: asWritten,
  rules: ({ IsString, Length }) => [IsString({ message }), Length(1, most, { message })],
});

/** One that may stand alone, given as "", or with a text behind it. */
export const flagOrText = (
  flags: string,
  help: string,
  message: string,
  most = 1000,
): Option<string | undefined> => ({
  flags,
  help,
  repeats: false,
  read: asWritten,
  rules: ({ IsString, MaxLength }) => [IsString({ message }), MaxLength(most, { message })],
});

/** A text of a form. */
export const formed = (
  flags: string,
  help: string,
  form: RegExp,
  message: string,
): Option<string | undefined> => ({
  flags,
  help,
  repeats: false,
  read: asWritten,
  rules: ({ Matches }) => [Matches(form, { message })],
});

/** Small letters, digits and dashes: a channel's name, or a source's. */
const NAME = /^[a-z0-9][a-z0-9-]*$/;

/** One that takes a name as channels, sources and fields have them. */
export function named(
  flags: string,
  help: string,
  message = "is a channel's name",
): Option<string | undefined> {
  return formed(flags, help, NAME, message);
}

/** One of a few words. */
export const oneOf = <Word extends string>(
  flags: string,
  help: string,
  words: readonly Word[],
  message = `is one of ${words.join(", ")}`,
): Option<Word | undefined> => ({
  flags,
  help,
  repeats: false,
  read: asWritten,
  words,
  rules: ({ IsIn }) => [IsIn(words, { message })],
});

interface Bounds {
  readonly message?: string;
  readonly least?: number;
  readonly most?: number;
}

const GREATEST = 1_000_000_000;

/** One that takes a whole number within bounds. */
export const wholeNumber = (
  flags: string,
  help: string,
  { message = "is a whole number", least = 1, most = GREATEST }: Bounds = {},
): Option<number | undefined> => ({
  flags,
  help,
  repeats: false,
  read: asNumber,
  rules: ({ IsInt, Max, Min }) => [
    IsInt({ message }),
    Min(least, { message: `is at least ${least}` }),
    Max(most, { message: `is at most ${most.toLocaleString("en")}` }),
  ],
});

/** So many rows or products at most. */
export const limit = (help: string): Option<number | undefined> => wholeNumber("--limit <count>", help);

/** A share that is written in percent, as it is shown everywhere; given as 0 to 1. */
export const percent = (flags: string, help: string): Option<number | undefined> => ({
  flags,
  help,
  repeats: false,
  read: (written) => (/^\d{1,3}(?:\.\d+)?%?$/.test(written) ? parseFloat(written) / 100 : written),
  rules: ({ ValidateBy }) => [
    ValidateBy({
      name: "isPercent",
      validator: {
        validate: (value: unknown) =>
          typeof value === "number" && value <= 1 && (value === 0 || value >= 0.01),
        defaultMessage: () => "is a share in percent, such as 90",
      },
    }),
  ],
});

/** Each time it is given, one text more. */
export const several = (
  flags: string,
  help: string,
  message: string,
  form?: RegExp,
): Option<readonly string[] | undefined> => ({
  flags,
  help,
  repeats: true,
  read: asWritten,
  rules: ({ IsArray, IsString, Matches }) => [
    IsArray({ message }),
    IsString({ each: true, message }),
    ...(form === undefined ? [] : [Matches(form, { each: true, message })]),
  ],
});

/** One that may be given for several channels. */
export const channelNames = (flags: string, help: string): Option<readonly string[] | undefined> =>
  several(flags, help, "is a channel's name", NAME);

/** A name, or the number that it has in its row. */
export const nameOrNumber = (
  flags: string,
  help: string,
  message: string,
): Option<string | number | undefined> => ({
  flags,
  help,
  repeats: false,
  read: asNumber,
  rules: ({ IsNotEmpty }) => [IsNotEmpty({ message })],
});

/** One that takes a currency's code (ISO 4217). */
export const currency = (flags: string, help: string): Option<string | undefined> => ({
  flags,
  help,
  repeats: false,
  read: asWritten,
  rules: ({ ValidateBy }) => [
    ValidateBy({
      name: "isCurrency",
      validator: {
        validate: (value: unknown) => typeof value === "string" && isCurrency(value),
        defaultMessage: () => "is a currency code such as GBP or EUR (ISO 4217)",
      },
    }),
  ],
});
