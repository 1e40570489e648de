import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { nearest } from "../diagnostics/nearest.js";
import type { Place } from "../diagnostics/place.js";
import type { DefinitionSource, LayoutSource } from "./definition-source.js";
import type { Field } from "./field.js";
import {
  statedFormats,
  type LayoutColumn,
  type LayoutDefinition,
  type ValuePart,
} from "./layout-definition.js";

interface BuiltLayouts {
  readonly layouts: readonly LayoutDefinition[];
  readonly findings: readonly Diagnostic[];
}

const parts: readonly string[] = ["whole", "amount", "currency", "unit"];

/** Ties each layout's columns and elements to the fields they show. */
export const buildLayouts = (
  sources: DefinitionSource["layouts"],
  fields: readonly Field[],
): BuiltLayouts => {
  const findings: Diagnostic[] = [];
  const byCode = new Map<string, Field>(fields.map((field) => [field.code, field]));
  const find = (code: string, place: Place): Field | undefined => {
    const field = byCode.get(code);
    if (field === undefined)
      findings.push(
        diagnostic("unknown-field", { field: code, nearest: nearest(code, byCode.keys()) }, { place }),
      );
    return field;
  };
  const layouts = sources.flatMap((source) => {
    const built = layoutOf(source, fields, find);
    if (built === undefined && findings.length === 0)
      findings.push(
        diagnostic(
          "wrong-setting",
          { key: "layouts", reason: `"${source.format}" is no layout: rss or tsv` },
          { place: source.place },
        ),
      );
    return built === undefined ? [] : [built];
  });
  return { layouts, findings };
};

const layoutOf = (
  source: LayoutSource,
  fields: readonly Field[],
  find: (code: string, place: Place) => Field | undefined,
): LayoutDefinition | undefined => {
  const columns: readonly LayoutColumn[] =
    source.columns?.flatMap((column) => {
      const {
        name,
        field: code,
        part,
        joined_by,
      } = typeof column === "string"
        ? { name: column, field: column, part: undefined, joined_by: undefined }
        : column;
      const field = find(code, source.place);
      return field === undefined ? [] : [{ name, field, part: partOf(part), joinedBy: joined_by }];
    }) ?? fields.map((field) => ({ name: field.code, field, part: "whole", joinedBy: undefined }));
  const common = { name: source.name, file: source.file, columns };
  if (source.format === "tsv") return { ...common, format: "tsv" };
  const stated = statedFormats.find((format) => format === source.format);
  if (stated !== undefined) return { ...common, format: stated, settings: source.settings ?? {} };
  if (source.format !== "rss") return undefined;
  const { item = {}, place } = source;
  const [title, link] = [find(item["title"] ?? "", place), find(item["link"] ?? "", place)];
  const [description, guid] = [find(item["description"] ?? "", place), find(item["guid"] ?? "", place)];
  if (title === undefined || link === undefined || description === undefined || guid === undefined)
    return undefined;
  const { prefix = "x", namespace = "" } = source;
  return { ...common, format: "rss", prefix, namespace, item: { title, link, description, guid } };
};

const partOf = (part: string | undefined): ValuePart =>
  part !== undefined && parts.includes(part) ? (part as ValuePart) : "whole";
