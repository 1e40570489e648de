import { Refusal } from "../core/diagnostics/refusal.js";
import type { SettingsCache } from "./settings-cache.js";
import type { Model } from "./validate.js";
import type { YamlFile } from "./yaml-file.js";

/**
 * A YAML file's settings, checked against a model that is named for the cache. The validator is loaded only when the
 * file is new or has changed since it was found good.
 */
export async function loadSettings<T extends object>(
  yaml: YamlFile,
  name: string,
  cache: SettingsCache,
  model: () => Promise<Model<T>>,
): Promise<T> {
  const known = cache.find(name, yaml.text);
  if (known !== undefined) return known as T;
  const { validate } = await import("./validate.js");
  const { value, findings } = validate(await model(), yaml.value, (path) => yaml.place(path));
  if (findings.length > 0) throw new Refusal(findings);
  cache.keep(name, yaml.text, value);
  return value;
}
