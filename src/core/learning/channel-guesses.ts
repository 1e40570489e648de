/** What is to be guessed of the channel as a whole: group model, id, roles, decimal mark. */
import { trust } from "./trust.js";
import type { PaperPlace } from "./claim.js";
import {
  channelFacts,
  type ChannelFact,
  type ChannelGuess,
  type LearnedField,
  type LearningWishes,
} from "./learned.js";
import type { SchemaReading } from "./schemas/schema-reading.js";
import type { SortedPapers } from "./sort-papers.js";

/** Where a field's name stands. */
export function originOf({ columns, facts }: LearnedField): PaperPlace {
  const label = facts.get("label")?.from;
  const [first] = columns;
  return label ?? { file: first?.template.sheet.file ?? "", sheet: "", at: "" };
}

/** What holds of the channel as a whole, as far as its fields and papers show. */
export function guessesOf(
  fields: readonly LearnedField[],
  schema: SchemaReading | undefined,
  sorted: SortedPapers,
  { corrections }: LearningWishes,
): ReadonlyMap<ChannelFact, ChannelGuess> {
  const found = new Map<ChannelFact, ChannelGuess>();
  const meant = (attribute: string): LearnedField | undefined =>
    fields
      .filter(({ meaning }) => meaning?.attribute === attribute)
      .sort((a, b) => (b.meaning?.confidence ?? 0) - (a.meaning?.confidence ?? 0))[0];
  const guess = (fact: ChannelFact, field: LearnedField | undefined, because: string, weight = 1): void => {
    if (field !== undefined)
      found.set(fact, {
        value: field.code,
        confidence: (field.meaning?.confidence ?? trust.someMeaning) * weight,
        because,
        from: originOf(field),
      });
  };
  const own =
    meant("sku") ??
    fields.find(
      ({ facts }) => facts.get("need")?.value === "required" && facts.get("kind")?.value !== "url",
    ) ??
    fields[0];
  guess(
    "identified_by",
    own,
    own?.meaning?.attribute === "sku"
      ? "its name asks for our number"
      : "the first field that must be filled; nothing says where our number goes",
  );
  guess("category_field", meant("category"), "its name asks for the category");
  const family = meant("group");
  guess("group_field", family, "its name asks for the group");
  if (family !== undefined) {
    const isParent = /parent|padre|parente|haupt|vater/iu.test(`${family.label} ${family.name}`);
    found.set("group_model", {
      value: isParent ? "leading-member" : "shared-id",
      confidence: isParent ? trust.parentColumn : trust.sharedReference,
      because: isParent ? "members name the one above them" : "members share a reference",
      from: originOf(family),
    });
  } else if (schema !== undefined && schema.member !== "") {
    guess("group_field", own, "members stand within their group");
    found.set("group_model", {
      value: "nested",
      confidence: trust.nestedMembers,
      because: "an element repeats within the listing",
      from: { file: schema.file, sheet: "", at: "" },
    });
  } else
    found.set("group_model", {
      value: "separate",
      confidence: trust.noGroupColumn,
      because: "no column ties members together",
      from: { file: sorted.templates[0]?.sheet.file ?? schema?.file ?? "", sheet: "", at: "" },
    });
  const comma = decimalComma(fields);
  if (comma !== undefined)
    found.set("decimal_mark", {
      value: ",",
      confidence: trust.decimalComma,
      because: "an example writes numbers with a comma",
      from: comma,
    });
  for (const fact of channelFacts) {
    const value = corrections.ofChannel().get(fact);
    if (value !== undefined)
      found.set(fact, { value, confidence: 1, because: "corrected", from: { file: "", sheet: "", at: "" } });
  }
  return found;
}

/** Where an example of a number has a comma in it. */
function decimalComma(fields: readonly LearnedField[]): PaperPlace | undefined {
  for (const { facts } of fields) {
    const example = facts.get("example");
    const kind = facts.get("kind")?.value ?? "";
    if (
      example !== undefined &&
      /^\d+,\d{1,3}$/.test(example.value) &&
      ["money", "decimal", "measure"].includes(kind)
    )
      return example.from;
  }
  return undefined;
}
