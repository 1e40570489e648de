import type { AttributeIndex } from "../core/catalogue/attribute-index.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Surroundings } from "../core/language/function.js";
import { program, type ReadyProgram } from "../core/language/program.js";
import { attributeNames } from "../core/listing/fill/fill-names.js";

/** A condition from the command line (`--where`), ready to run on products. */
export function conditionOf(
  text: string,
  attributes: AttributeIndex,
  surroundings: Surroundings,
): ReadyProgram {
  const compiled = program(
    { text, place: { file: "--where", line: 1, position: 1 } },
    attributeNames(attributes),
    surroundings,
    "yes-no",
  );
  if (compiled.kind === "faulty") throw new Refusal(compiled.findings);
  return compiled;
}
