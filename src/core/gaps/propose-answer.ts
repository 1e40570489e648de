/** Answers that a person need only confirm: what siblings have, what the name says, what a term means. */
import { statedAxes } from "../catalogue/axes.js";
import { holdsSeveral } from "../catalogue/list-text.js";
import type { Family } from "../catalogue/family.js";
import { textOf, type ProductView } from "../catalogue/product.js";
import type { CategoryField } from "../channel/category-rules.js";
import { withoutMark } from "../catalogue/vocabulary.js";
import { proposeValues } from "../listing/fill/lexicon-proposals.js";
import { characters } from "../values/characters.js";
import { fold } from "../values/text.js";
import type { AnswerProposal } from "./question.js";

/** What each product has of its own: a sibling's is never its own. */
const ownOfEach: ReadonlySet<string> = new Set([
  "sku",
  "gtin",
  "isbn",
  "mpn",
  "url",
  "quantity",
  "name",
  "first_image",
  "images",
]);

/** What the other members of the group all have, unless the group varies by it or each has its own. */
export function fromSiblings(
  attribute: string,
  product: ProductView,
  { members }: Pick<Family, "members">,
): AnswerProposal | undefined {
  if (statedAxes(product).includes(attribute) || ownOfEach.has(withoutMark(attribute))) return undefined;
  const values = new Set(
    members.filter(({ sku }) => sku !== product.sku).flatMap((member) => textOf(member, attribute) ?? []),
  );
  const [value] = values;
  return value === undefined || values.size > 1 || holdsSeveral(value)
    ? undefined
    : { value, reason: "the others of its group have it" };
}

/** A permitted value whose words stand in the product's name. */
export function fromName({ limits }: CategoryField, product: ProductView): AnswerProposal | undefined {
  const name = ` ${fold(textOf(product, "name") ?? "")} `;
  const found = (limits.values?.values ?? []).filter(({ value, label, synonyms }) =>
    [value, label, ...synonyms].some((text) => {
      const words = fold(text);
      return words.length > 2 && name.includes(` ${words} `);
    }),
  );
  const [first] = found;
  return first === undefined || found.length > 1
    ? undefined
    : { value: first.value, reason: "the name says so" };
}

/** The surest of the values that a term may mean. */
export function fromTerm(term: string, { limits }: CategoryField): AnswerProposal | undefined {
  const [best] = limits.values === undefined ? [] : proposeValues(term, limits.values);
  return best === undefined ? undefined : { value: best.value, reason: best.reason };
}

const utf8 = new TextEncoder();

/** A text cut behind its last word that fits. */
export function shortened(text: string, { limits }: CategoryField): AnswerProposal | undefined {
  const { maxLength, counted } = limits;
  if (maxLength === undefined) return undefined;
  const size = (part: string): number =>
    counted === "bytes" ? utf8.encode(part).length : characters(part).length;
  let fitted = "";
  for (const word of text.split(/(?<=\s)/)) {
    if (size((fitted + word).trimEnd()) > maxLength) break;
    fitted += word;
  }
  const value = fitted.replace(/[\s,;:–-]+$/, "");
  return value === "" ? undefined : { value, reason: `cut to ${maxLength} ${counted ?? "characters"}` };
}
