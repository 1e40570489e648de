/** Holds an answer against the rules of the field that asks, before it is kept. */
import { itemsOf } from "../catalogue/list-text.js";
import { cellReader, type CellNotes } from "../catalogue/cell-reader.js";
import { CLEAR_WORD, CLEARED, LIST_SEPARATOR } from "../catalogue/record.js";
import { attributeKind } from "../catalogue/vocabulary.js";
import type { CategoryField } from "../channel/category-rules.js";
import { diagnostic, isError, type Diagnostic } from "../diagnostics/diagnostic.js";
import { asSku } from "../ids.js";
import type { Report } from "../listing/check/check-kind.js";
import type { ChannelSetup } from "../listing/channel-setup.js";
import { fieldChecks } from "../listing/check/checks/checks.js";
import { coerce, type Coerced } from "../listing/fill/coerce.js";
import type { Listing } from "../listing/listing.js";
import { permittedFor } from "../listing/fill/permitted.js";
import { textOf } from "../catalogue/product.js";
import { canonicalText } from "../values/show.js";
import { cleanText } from "../values/text.js";
import type { Value } from "../values/value.js";
import type { SheetAnswer } from "./read-sheet.js";
import { SEVERAL } from "./sheet-marks.js";

/** A field that asks, with the listing it asks for. */
export interface AskingField {
  readonly setup: ChannelSetup;
  readonly listing: Listing;
  readonly rule: CategoryField;
}

/** The canonical text to be kept, or why the answer is not taken. */
export type CheckedAnswer =
  /** `advice`: what may be better, and is taken all the same. */
  | { readonly text: string; readonly advice?: readonly Diagnostic[] }
  | { readonly findings: readonly Diagnostic[] };

/** Holds an answer against what it is for; a right one becomes the text that is kept. */
export function checkAnswer(
  answer: SheetAnswer,
  asking: readonly AskingField[],
  currency: string,
): CheckedAnswer {
  const [first] = asking;
  const kind =
    answer.target.kind === "attribute" ? attributeKind(answer.target.attribute).kind : first?.rule.field.kind;
  if (answer.isDate && kind !== "date")
    return refused(answer, first, "damaged-value", {
      attribute: answer.title,
      value: answer.text,
      damage: "date",
      candidates: [],
    });
  switch (answer.target.kind) {
    case "attribute":
      return forAttribute(answer, answer.target.attribute, asking, currency);
    case "field":
      return first === undefined ? { text: cleanText(answer.text) } : forField(answer, first);
    case "term":
      return first === undefined ? { text: cleanText(answer.text) } : forTerm(answer, first);
  }
}

const refused = (
  answer: SheetAnswer,
  asking: AskingField | undefined,
  ...[code, facts]: CodeWithFacts
): CheckedAnswer => ({
  findings: [
    diagnostic(code, facts as never, {
      product: asSku(answer.sku),
      place: answer.place,
      ...(asking === undefined ? {} : { channel: asking.setup.channel, field: asking.rule.field.code }),
    }),
  ],
});

type CodeWithFacts = {
  [C in Diagnostic["code"]]: [C, Extract<Diagnostic, { code: C }>["facts"]];
}[Diagnostic["code"]];

function unknownValue(answer: SheetAnswer, asking: AskingField, written: string): CheckedAnswer {
  const { rule, setup } = asking;
  return refused(answer, asking, "unknown-value", {
    label: rule.field.label,
    value: written,
    nearest: rule.limits.values?.near(written) ?? [],
    lexicon: setup.files.lexicon,
  });
}

const partsOf = (text: string): readonly string[] => text.split(SEVERAL).map(cleanText).filter(Boolean);

const translateIn =
  ({ setup, rule, listing }: AskingField) =>
  (term: string): string | undefined =>
    permittedFor(setup, rule, textOf(listing.product, "category"), term);

function forAttribute(
  answer: SheetAnswer,
  attribute: string,
  asking: readonly AskingField[],
  currency: string,
): CheckedAnswer {
  if (answer.text === CLEAR_WORD) return { text: CLEARED };
  const notes: CellNotes = { findings: [], doubts: [] };
  const unit = asking.map(({ rule }) => rule.field.unit?.code).find((code) => code !== undefined);
  const read = cellReader(
    { attribute, column: answer.title, from: { kind: "column", index: 0 } },
    {
      file: answer.place.file,
      units: unit === undefined ? {} : { [attribute]: unit },
      listSeparator: SEVERAL,
      clearWord: CLEAR_WORD,
      currency,
      decimalMark: ".",
    },
  );
  const text = read(answer.row, [answer.text], notes);
  const unreadable = notes.findings.filter(({ code }) => code === "unreadable-value");
  if (unreadable.length > 0 || notes.doubts.length > 0 || text === "")
    return {
      findings: [
        ...unreadable.map((finding) => ({
          ...finding,
          severity: "error" as const,
          product: asSku(answer.sku),
          place: answer.place,
        })),
        ...notes.doubts.map(({ written: value, damage, candidates }) =>
          diagnostic(
            "damaged-value",
            { attribute, value, damage, candidates },
            { product: asSku(answer.sku), place: answer.place },
          ),
        ),
      ],
    };
  // A list binds where the field takes the attribute as it is; an expression may make something else of it.
  const listed = asking.filter((one) => bindsList(one, attribute));
  const taken = listed.filter((one) => !("problem" in coerce(itemsOf(text), one.rule, translateIn(one))));
  const [first] = listed;
  return first !== undefined && taken.length === 0 ? unknownValue(answer, first, answer.text) : { text };
}

function bindsList({ rule, listing }: AskingField, attribute: string): boolean {
  const slot = listing.plan.bySlot[rule.field.slot]?.fill?.program.isJust;
  const taken = slot === undefined ? undefined : listing.product.attributes.names[slot];
  return rule.limits.values !== undefined && rule.limits.isOpenList !== true && taken === attribute;
}

/** A bare number is meant in the field's own unit, a bare amount in the channel's first currency. */
function coerced(text: string, asking: AskingField): Coerced {
  const { rule, setup } = asking;
  const given: Value = rule.field.list ? partsOf(text) : cleanText(text);
  const found = coerce(given, rule, translateIn(asking));
  if (!("problem" in found)) return found;
  const unit = found.problem === "no-unit" ? rule.field.unit?.code : undefined;
  const money = found.problem === "no-currency" ? setup.definition.currencies[0] : undefined;
  const ending = unit ?? money;
  return ending === undefined ? found : coerce(`${cleanText(text)} ${ending}`, rule, translateIn(asking));
}

function forField(answer: SheetAnswer, asking: AskingField): CheckedAnswer {
  const { rule, setup } = asking;
  const found = coerced(answer.text, asking);
  if ("problem" in found)
    return found.problem === "unknown-value"
      ? unknownValue(answer, asking, found.written)
      : refused(answer, asking, "wrong-kind", {
          label: rule.field.label,
          value: found.written,
          problem: found.problem,
        });
  const { value } = found;
  if (value === undefined) return { findings: [] };
  const findings: Diagnostic[] = [];
  const report: Report = (code, facts, { severity = "error" } = {}) => {
    findings.push(
      diagnostic(
        code,
        facts,
        { product: asSku(answer.sku), channel: setup.channel, field: rule.field.code, place: answer.place },
        severity,
      ),
    );
  };
  for (const check of fieldChecks) check.for(rule, setup)?.(value, report);
  const errors = findings.filter(isError);
  if (errors.length > 0) return { findings: errors };
  const advice = findings.filter((finding) => !isError(finding));
  return {
    advice,
    text: canonicalText(value, LIST_SEPARATOR),
  };
}

function forTerm(answer: SheetAnswer, asking: AskingField): CheckedAnswer {
  const value = asking.rule.limits.values?.match(cleanText(answer.text));
  return value === undefined ? unknownValue(answer, asking, answer.text) : { text: value };
}
