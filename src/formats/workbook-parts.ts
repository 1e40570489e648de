/** The parts of a workbook's package, by its relations (ECMA-376). */
import { localName } from "../core/records/local-name.js";
import { SaxesParser } from "saxes";

/** One sheet of a workbook, with the part of the package that holds it. */
export interface SheetPart {
  readonly name: string;
  /** The part's name in the archive; "" where the workbook's relations do not tell it. */
  readonly path: string;
  /** Whether whoever opens the workbook does not see it. */
  readonly isHidden: boolean;
}

type Attributes = Readonly<Record<string, string>>;

function attributesOf(xml: string, tag: string): readonly Attributes[] {
  const found: Attributes[] = [];
  if (xml === "") return found;
  const parser = new SaxesParser();
  parser.on("opentag", ({ name, attributes }) => {
    if (localName(name) === tag) found.push(attributes);
  });
  parser.write(xml).close();
  return found;
}

/** The relation that a sheet names: `r:id`, by whatever prefix. */
const relationOf = (sheet: Attributes): string | undefined =>
  Object.entries(sheet).find(([name]) => name.includes(":") && localName(name) === "id")?.[1];

const inPackage = (target: string): string => (target.startsWith("/") ? target.slice(1) : `xl/${target}`);

/** Columns of a sheet that are not shown, counted from 0; what stands before its rows tells them. */
export function hiddenColumns(sheetXml: string): ReadonlySet<number> {
  const [before = ""] = sheetXml.split(/<(?:\w+:)?sheetData\b/, 1);
  const hidden = new Set<number>();
  for (const [column] of before.matchAll(/<(?:\w+:)?col\s[^<>]*>/g)) {
    const attribute = (name: string): string => new RegExp(`\\b${name}="([^"]*)"`).exec(column)?.[1] ?? "";
    if (!/^(?:1|true)$/.test(attribute("hidden"))) continue;
    const [first, last] = [Number(attribute("min")), Number(attribute("max"))];
    // A range to the sheet's end is how the unused rest is hidden.
    for (let at = first; at <= Math.min(last, first + 1000); at++) hidden.add(at - 1);
  }
  return hidden;
}

/** The part with the texts that cells share, by the workbook's relations; "" where it has none. */
export function stringsPart(relations: string): string {
  const found = attributesOf(relations, "Relationship").find(
    ({ Type = "" }) => Type.split("/").at(-1) === "sharedStrings",
  );
  return found === undefined ? "" : inPackage(found["Target"] ?? "");
}

/**
 * The sheets of a workbook in their order, by its `xl/workbook.xml` and that part's relations ("" for none). Office Open
 * XML, ECMA-376, parts 1 and 2.
 * @throws Error when either is no XML
 */
export function sheetParts(workbook: string, relations: string): readonly SheetPart[] {
  const targets = new Map(
    attributesOf(relations, "Relationship").map(({ Id = "", Target = "" }) => [Id, inPackage(Target)]),
  );
  return attributesOf(workbook, "sheet").map((sheet) => ({
    name: sheet["name"] ?? "",
    path: targets.get(relationOf(sheet) ?? "") ?? "",
    isHidden: /^(?:hidden|veryHidden)$/.test(sheet["state"] ?? ""),
  }));
}
