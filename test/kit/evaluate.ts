import type { Surroundings } from "../../src/core/language/function.js";
import type { ResultKind } from "../../src/core/language/kind.js";
import { namesOf } from "../../src/core/language/names.js";
import { program } from "../../src/core/language/program.js";
import { sentence } from "../../src/core/diagnostics/wording.js";
import { shownText } from "../../src/core/values/show.js";
import type { MaybeBlank } from "../../src/core/values/value.js";

export const surroundings: Surroundings = { today: { kind: "date", iso: "2026-03-01" } };

type Given = Readonly<Record<string, readonly [ResultKind, MaybeBlank]>>;

const compiled = (text: string, given: Given) =>
  program(
    { text, place: { file: "fills.yaml", line: 3, position: 10 } },
    namesOf(
      "attribute",
      Object.entries(given).map(([name, [kind]]) => ({ name, kind })),
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
