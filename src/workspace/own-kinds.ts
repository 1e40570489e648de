/** The kinds that a shop declares for attributes of its own: `attributes` of `lexicant.yaml`. */
import { kindsWith, withoutMark } from "../core/catalogue/vocabulary.js";
import type { AttributeKind, KindOf } from "../core/values/attribute-kind.js";
import type { Kind } from "../core/values/value.js";

/** The words for kinds in the manifest, by what they are to us. */
export const kindWords = {
  text: "text",
  html: "html",
  number: "decimal",
  integer: "integer",
  money: "money",
  measure: "measure",
  date: "date",
  "yes-no": "yes-no",
  url: "url",
} as const satisfies Readonly<Record<string, Kind>>;

/** Such a word. */
export type KindWord = keyof typeof kindWords;

/** Whether a text is one. */
export const isKindWord = (word: unknown): word is KindWord =>
  typeof word === "string" && Object.hasOwn(kindWords, word);

/** What a shop says of an attribute of its own: its kind, its permitted values, or both and whether it has several. */
export type DeclaredAttribute =
  | KindWord
  | (string | number)[]
  | {
      readonly kind?: KindWord;
      readonly several?: boolean | "yes" | "no";
      readonly values?: (string | number)[];
    };

function declared(entry: DeclaredAttribute): AttributeKind {
  if (typeof entry === "string") return { kind: kindWords[entry], list: false };
  if (Array.isArray(entry)) return { kind: "text", list: false, permitted: entry.map(String) };
  const { kind = "text", several = false, values } = entry;
  return {
    kind: kindWords[kind],
    list: several === true || several === "yes",
    ...(values === undefined ? {} : { permitted: values.map(String) }),
  };
}

/** Kinds by the words for them; of a plain kind, as a proposal has it. */
export const kindWordsOf = (
  kinds: Readonly<Record<string, AttributeKind>>,
): Readonly<Record<string, KindWord>> =>
  Object.fromEntries(
    Object.entries(kinds).map(([attribute, { kind }]) => [
      attribute,
      Object.keys(kindWords)
        .filter(isKindWord)
        .find((word) => kindWords[word] === kind) ?? "text",
    ]),
  );

/** A workspace with kinds that are about to be declared: a proposal's, until it is kept. */
export function withKinds<W extends { readonly kindOf: KindOf }>(
  workspace: W,
  kinds: Readonly<Record<string, AttributeKind>>,
): W {
  if (Object.keys(kinds).length === 0) return workspace;
  const own = kindsWith(kinds);
  const isOwn = (attribute: string): boolean => Object.hasOwn(kinds, withoutMark(attribute));
  return {
    ...workspace,
    kindOf: (attribute) => (isOwn(attribute) ? own(attribute) : workspace.kindOf(attribute)),
  };
}

/** Attributes that a manifest declares, each with its kind. */
export const ownKinds = (
  attributes: Readonly<Record<string, DeclaredAttribute>> = {},
): Readonly<Record<string, AttributeKind>> =>
  Object.fromEntries(Object.entries(attributes).map(([name, entry]) => [name, declared(entry)]));
