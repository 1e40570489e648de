/** How a channel's files write numbers, days, yes and no. */
import { readYesNo } from "../values/yes-no.js";
import { valuesOf } from "./claim.js";
import type { LearnedChannel, LearnedField } from "./learned.js";

/** A part of a definition, as YAML writes it. */
export type YamlData = Readonly<Record<string, unknown>>;

/** How the channel's files write what has several forms. */
export interface StyleDraft {
  readonly settings: YamlData;
  isYesNo(values: readonly string[]): boolean;
}

function mostOf(texts: readonly string[]): string | undefined {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}

/** How its values are written, as far as it shows. */
export function styleDraft({ fields, guesses }: LearnedChannel): StyleDraft {
  const facts = fields.map((field) => field.facts);
  const lists = facts
    .filter((own) => own.get("kind")?.value === "yes-no")
    .map((own) => own.get("values")?.value ?? "")
    .filter(Boolean);
  const words = valuesOf(mostOf(lists) ?? "");
  const [yes, no] = [
    words.find((word) => readYesNo(word) === true),
    words.find((word) => readYesNo(word) === false),
  ];
  const date = mostOf(facts.flatMap((own) => own.get("date")?.value ?? []));
  const mark = guesses.get("decimal_mark")?.value;
  return {
    settings: {
      ...(mark === undefined ? {} : { decimal_mark: mark }),
      ...(yes === undefined || no === undefined ? {} : { yes, no }),
      ...(date === undefined || date === "YYYY-MM-DD" ? {} : { date }),
    },
    isYesNo: (values) =>
      values.length === 2 &&
      yes !== undefined &&
      no !== undefined &&
      values.includes(yes) &&
      values.includes(no),
  };
}

/** How much of a price or measure a column shows. */
export function partOf({ facts }: LearnedField): YamlData {
  const kind = facts.get("kind")?.value ?? "text";
  if (kind !== "money" && kind !== "measure") return {};
  const example = facts.get("example")?.value ?? "";
  // "49.00 GBP" and "1.4 kg" show the whole; bare numbers, whose unit the heading says, a part.
  return /\d\s*\p{L}{1,3}$/u.test(example) ? {} : { part: "amount" };
}
