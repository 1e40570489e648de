/**
 * Ties each layout of a definition to the fields that it shows: columns first, then what every layout may say, then what its
 * format knows (`layout-formats/`).
 */
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { nearest } from "../values/nearest.js";
import type { DefinitionSource, LayoutSource } from "./definition-source.js";
import type { Field } from "./field.js";
import { layoutCells, type LayoutCell, type FindField } from "./layout-columns.js";
import type { LayoutColumn, LayoutDefinition, ValueStyle } from "./layout-definition.js";
import { buildLayout, faultsOf, layoutFormats } from "./layout-formats/layout-formats.js";
import { layoutSettings, type LayoutSettings } from "./layout-settings.js";

interface BuiltLayouts {
  readonly layouts: readonly LayoutDefinition[];
  readonly findings: readonly Diagnostic[];
}

const encodings = ["utf-8", "utf-16le", "windows-1252", "iso-8859-1", "iso-8859-15"] as const;

/** Ties each layout's columns and elements to the fields they show. */
export function buildLayouts(sources: DefinitionSource["layouts"], fields: readonly Field[]): BuiltLayouts {
  const findings: Diagnostic[] = [];
  const byCode = new Map<string, Field>(fields.map((field) => [field.code, field]));
  const find: FindField = (code, place) => {
    const field = byCode.get(code);
    if (field === undefined)
      findings.push(
        diagnostic("unknown-field", { field: code, nearest: nearest(code, byCode.keys()) }, { place }),
      );
    return field;
  };
  const layouts = sources.flatMap((source) => {
    const wrong = (key: string, reason: string): void =>
      void findings.push(diagnostic("wrong-setting", { key, reason }, { place: source.place }));
    const settings = layoutSettings(source.settings ?? {}, source.place, findings);
    const built = layoutOf(source, settings, fields, find, findings);
    settings.end();
    for (const { key, reason } of built === undefined ? [] : faultsOf(built)) wrong(key, reason);
    if (built === undefined && findings.length === 0)
      wrong("layouts", `"${source.format}" is no layout: ${layoutFormats.join(", ")}`);
    return built ?? [];
  });
  return { layouts, findings };
}

const isField = (cell: LayoutCell): cell is LayoutColumn => "field" in cell;

const styleOf = (settings: LayoutSettings): ValueStyle => ({
  decimalMark: settings.oneOf("decimal_mark", [".", ","], "."),
  yes: settings.text("yes", "yes"),
  no: settings.text("no", "no"),
  date: settings.text("date", "YYYY-MM-DD"),
});

function layoutOf(
  source: LayoutSource,
  settings: LayoutSettings,
  fields: readonly Field[],
  find: FindField,
  findings: Diagnostic[],
): LayoutDefinition | undefined {
  const cells = layoutCells(source, fields, find, findings);
  const common = {
    name: source.name,
    file: source.file,
    columns: cells.filter(isField),
    style: styleOf(settings),
    encoding: settings.oneOf("encoding", encodings, "utf-8"),
    packing: settings.oneOf("packing", ["none", "gzip", "zip"], "none"),
    purposes: source.purposes,
    fileLimits: source.file_limits,
  };
  const format = layoutFormats.find((known) => known === source.format);
  return format === undefined
    ? undefined
    : buildLayout(format, { source, settings, cells, common, find, findings });
}
