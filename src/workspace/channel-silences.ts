/** Findings that a person does not want to hear of. */
import { withAncestors } from "../core/channel/category-tree.js";
import { fieldNamed, type ChannelDefinition } from "../core/channel/definition.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import type { Silence } from "../core/diagnostics/silence.js";
import { codes } from "../core/diagnostics/entry.js";
import type { ChannelModel, SilenceModel } from "./models/channel-model.js";
import type { YamlFile } from "./yaml-file.js";

/** Reads the findings that `channel.yaml` silences; a code or field that there is none of is told. */
export function channelSilences(
  { silence = [] }: ChannelModel,
  yaml: YamlFile,
  definition: ChannelDefinition,
): { readonly silences: readonly Silence[]; readonly findings: readonly Diagnostic[] } {
  const findings: Diagnostic[] = [];
  const silences = silence.map((entry, index) => {
    const wrong = (key: string, reason: string): void => {
      findings.push(
        diagnostic(
          "wrong-setting",
          { key: `silence.${key}`, reason },
          { place: yaml.place(["silence", index, key]) },
        ),
      );
    };
    if ([entry.code, entry.field, entry.category, entry.product].every((key) => key === undefined))
      wrong("code", "names a code, field, category or product; all of them at once are never silenced");
    if (entry.code !== undefined && !codes.some((code) => code === entry.code))
      wrong("code", unknown(entry.code, "finding", codes));
    if (entry.field !== undefined && fieldNamed(definition, entry.field) === undefined)
      wrong("field", unknown(entry.field, "field of the channel", definition.fieldNames.all));
    return silenceOf(entry, definition);
  });
  return { silences, findings };
}

function unknown(name: string, what: string, names: readonly string[]): string {
  const near = nearest(name, names);
  return `"${name}" is no ${what}${near.length === 0 ? "" : `; nearest: ${near.map((one) => `"${one}"`).join(", ")}`}`;
}

function silenceOf({ code, field, category, product }: SilenceModel, { tree }: ChannelDefinition): Silence {
  const named = category === undefined ? undefined : tree.named(category);
  return {
    code,
    field,
    product,
    ourCategory: category,
    channelCategories:
      named === undefined
        ? undefined
        : new Set(tree.all.filter((one) => withAncestors(one).includes(named)).map(({ code: own }) => own)),
  };
}
