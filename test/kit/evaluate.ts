import type { Surroundings } from "../../src/core/language/function.js";
import { attributeShape, type ResultKind } from "../../src/core/language/kind.js";
import { namesOf } from "../../src/core/language/names.js";
import { program } from "../../src/core/language/program.js";
import { sentence } from "../../src/workspace/wording.js";
import { lookUpTable } from "../../src/core/language/look-up-table.js";
import { decimal, whole } from "../../src/core/values/decimal.js";
import { ratesOf } from "../../src/core/values/rates.js";
import { shownText } from "../../src/core/values/show.js";
import type { MaybeBlank } from "../../src/core/values/value.js";

/** The tables, rates and channel words that the examples of the functions' page speak of. */
export const surroundings: Surroundings = {
  today: { kind: "date", iso: "2026-03-01" },
  rates: ratesOf([
    { day: "2026-01-01", from: "GBP", to: "EUR", rate: decimal("1.15") ?? whole(0) },
    { day: "2026-02-15", from: "GBP", to: "EUR", rate: decimal("1.17") ?? whole(0) },
  ]),
  tables: new Map(
    [
      lookUpTable(
        "colours",
        ["our", "german"],
        [
          ["moss green", "moosgrün"],
          ["oak", "eiche"],
        ],
      ),
      lookUpTable(
        "parcels",
        ["country", "up_to", "cost"],
        [
          ["DE", "1 kg", "6.50 EUR"],
          ["DE", "5 kg", "9.00 EUR"],
          ["", "1 kg", "3.20 GBP"],
          ["", "10 kg", "4.50 GBP"],
        ],
      ),
    ].map((table) => [table.name, table]),
  ),
  channelTerm: (field, term) => (field === "tint" && term === "moss green" ? "green" : undefined),
};

type Given = Readonly<Record<string, readonly [ResultKind, MaybeBlank]>>;

/** What is known of an attribute of the vocabulary beside its kind: the dimension of a weight, the currency of price@EUR. */
const shapeNamed = (name: string) =>
  attributeShape(name, { kind: name.includes("@") ? "money" : "measure", list: false });

const compiled = (text: string, given: Given) =>
  program(
    { text, place: { file: "fills.yaml", line: 3, position: 10 } },
    namesOf(
      "attribute",
      Object.entries(given).map(([name, [kind]]) => ({ ...shapeNamed(name), name, kind })),
    ),
    surroundings,
  );

/** Runs an expression over attributes given as `name: [kind, value]`; a faulty one fails the test. */
export const evaluate = (text: string, given: Given = {}): MaybeBlank => {
  const ready = compiled(text, given);
  if (ready.kind === "faulty") throw new Error(ready.findings.map(sentence).join("\n"));
  const values = Object.values(given).map(([, value]) => value);
  return ready.run({ value: (slot) => values[slot] });
};

export const shown = (text: string, given: Given = {}): string => shownText(evaluate(text, given));

/** The sentences of an expression's faults, each with line and position before it. */
export const faultsOf = (text: string, given: Given = {}): readonly string[] => {
  const faulty = compiled(text, given);
  return faulty.kind === "program"
    ? []
    : faulty.findings.map(
        (finding) => `${finding.place?.line}:${finding.place?.position} ${sentence(finding)}`,
      );
};
