import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Model } from "../../workspace/validate.js";

/**
 * A command's options, checked against a model. The validator is loaded only when an option was given: defaults are
 * right, and a command without options starts without it.
 */
export const validOptions = async <T extends object>(
  given: Readonly<Record<string, unknown>>,
  names: readonly string[],
  model: () => Promise<Model<T>>,
): Promise<Partial<T>> => {
  const own = Object.fromEntries(
    names.flatMap((name) => (given[name] === undefined ? [] : [[name, given[name]]])),
  );
  if (Object.keys(own).length === 0) return {};
  const { validate } = await import("../../workspace/validate.js");
  const { value, findings } = validate(await model(), own, () => undefined);
  if (findings.length > 0)
    throw new Refusal(
      findings.map((finding) =>
        finding.code === "wrong-setting"
          ? diagnostic("unknown-option", { reason: `--${finding.facts.key} ${finding.facts.reason}` })
          : finding,
      ),
    );
  return value;
};
