import { Refusal } from "../core/diagnostics/refusal.js";
import type { Model } from "./validate.js";
import type { YamlFile } from "./yaml-file.js";

/**
 * A YAML file's settings, checked against a model. The validator is loaded only here: it is the heaviest package that
 * a short command would otherwise wait for.
 */
export const loadSettings = async <T extends object>(
  yaml: YamlFile,
  model: () => Promise<Model<T>>,
): Promise<T> => {
  const { validate } = await import("./validate.js");
  const { value, findings } = validate(await model(), yaml.value, (path) => yaml.place(path));
  if (findings.length > 0) throw new Refusal(findings);
  return value;
};
