/** What each paper is for: a template, a guide, values, categories, a report, an export, or words. */
import { plainWords } from "./plain-words.js";
import { categorySheet, categoryTreePaper, type CategoryList } from "./category-list.js";
import { guideSheet, type GuideSheet } from "./guide-sheet.js";
import { headOfSheet, legendOf, type SheetHead } from "./head-of-sheet.js";
import { nameKey } from "./headings.js";
import { paperName, textAt, type Paper, type SheetPaper, type TreePaper } from "./paper.js";
import { addAll } from "../many.js";
import { isJsonSchema, readJsonSchema } from "./schemas/json-schema.js";
import { readSample } from "./schemas/sample-tree.js";
import type { SchemaReading } from "./schemas/schema-reading.js";
import { isXmlSchema, readXmlSchema } from "./schemas/xml-schema.js";

/** A sheet that is filled in with listings. */
export interface Template {
  readonly sheet: SheetPaper;
  readonly head: SheetHead;
}

/** Papers by what they are for. */
export interface SortedPapers {
  readonly templates: readonly Template[];
  /** Filled sheets with the headings of a template. */
  readonly filled: readonly Template[];
  readonly guides: readonly GuideSheet[];
  readonly categories: readonly CategoryList[];
  readonly schemas: readonly SchemaReading[];
  readonly reports: readonly Template[];
  readonly lives: readonly Template[];
  /** Sheets that are none of these: covers, legends, lists of values. */
  readonly rest: readonly SheetPaper[];
  readonly told: readonly string[];
  /** Why nothing can be made of them; empty where something can. */
  readonly faults: readonly string[];
}

function headingsOf({ sheet, head }: Template): readonly string[] {
  const names: string[] = [];
  for (const { row, role } of head.rows)
    if (role === "labels" || role === "codes")
      for (let column = 0; column < head.width; column++) names.push(nameKey(textAt(sheet, row, column)));
  return names.filter(Boolean);
}

function shared(one: readonly string[], other: readonly string[]): number {
  const known = new Set(other);
  return one.filter((name) => known.has(name)).length;
}

const stateHeading =
  /^(?:state|status|outcome|result|ergebnis|resultat|statut|estado|resultado|disposition|verdict|decision)$/;
const messageHeading =
  /\b(?:reason|message|error|remark|note|comment|meldung|grund|fehler|hinweis|motif|raison|erreur|motivo|mensaje|error|problem|explanation|why)\b/;

/** A table that answers rows: it has a state, and says why. */
function isReport(template: Template): boolean {
  const { sheet, head } = template;
  const names = Array.from({ length: head.width }, (_, column) =>
    plainWords(textAt(sheet, head.named, column)),
  );
  return (
    head.examples > 0 &&
    names.some((name) => stateHeading.test(name)) &&
    names.some((name) => messageHeading.test(name)) &&
    head.width <= 14
  );
}

const named =
  /\b(?:template|fill|upload|items|products?|listings?|offers?|articles?|vorlage|artikel|produkte|angebote|modele|offres|produits|plantilla|productos|ofertas|stock list)\b/;
const exampleNamed = /\b(?:example|sample|filled|beispiel|muster|exemple|ejemplo|demo)\b/;

const ruled = ({ sheet }: Template): boolean => sheet.rules.some(({ kind }) => kind === "list");

function strength(template: Template): number {
  const name = plainWords(template.sheet.sheet || template.sheet.file);
  return (
    (ruled(template) ? 200 : 0) +
    (named.test(name) ? 40 : 0) -
    (exampleNamed.test(name) ? 80 : 0) -
    (template.sheet.isHidden ? 400 : 0) +
    Math.min(100, template.head.width) -
    Math.min(20, template.head.examples)
  );
}

/** Of the sheets of one file that could be filled in, those that are meant. */
function chosenOf(
  candidates: readonly Template[],
  wanted: string | undefined,
): Pick<SortedPapers, "templates" | "filled" | "rest" | "told" | "faults"> {
  const sorted = [...candidates].sort((a, b) => strength(b) - strength(a));
  const [best] = sorted;
  if (best === undefined) return { templates: [], filled: [], rest: [], told: [], faults: [] };
  const templates: Template[] = [best];
  const [filled, rest, told, faults]: [Template[], SheetPaper[], string[], string[]] = [[], [], [], []];
  for (const other of sorted.slice(1)) {
    const [own, others] = [headingsOf(other), templates.flatMap(headingsOf)];
    const alike = shared(own, others) / Math.max(1, own.length);
    if (
      alike >= 0.8 &&
      !other.sheet.isHidden &&
      other.head.examples > 0 &&
      other.head.width >= best.head.width * 0.5
    )
      filled.push(other);
    else if (ruled(other) && !other.sheet.isHidden) templates.push(other);
    else if (
      !other.sheet.isHidden &&
      !ruled(best) &&
      other.head.width >= best.head.width * 0.6 &&
      alike < 0.3 &&
      wanted === undefined &&
      Math.abs(strength(best) - strength(other)) < 30
    )
      faults.push(
        `${best.sheet.file} has two sheets that could be the one to fill: "${best.sheet.sheet}" and "${other.sheet.sheet}"; name one with --sheet "${best.sheet.sheet}"`,
      );
    else rest.push(other.sheet);
  }
  for (const { sheet } of filled)
    told.push(`${paperName(sheet)}: filled in like "${best.sheet.sheet}"; read as examples`);
  return { templates, filled, rest, told, faults };
}

function byFile(templates: readonly Template[]): readonly (readonly Template[])[] {
  const files = new Map<string, Template[]>();
  for (const one of templates) files.set(one.sheet.file, [...(files.get(one.sheet.file) ?? []), one]);
  return [...files.values()];
}

function looksLikeGuide(guide: GuideSheet, sheet: SheetPaper, names: ReadonlySet<string>): boolean {
  if (sheet.rules.some(({ kind }) => kind === "list")) return false;
  const known = guide.rows.filter((row) =>
    [row.cell("code"), row.cell("label")].some((cell) => cell !== undefined && names.has(nameKey(cell.text))),
  ).length;
  return known >= Math.max(2, guide.rows.length * 0.4) || guide.rows.length >= 3;
}

const categoryWords =
  /^@?(?:id|code|key|name|label|title|text|path|parent\w*|level|depth|leaf|node|children|sub\w*|slug|order|position|count|number)$/i;

/** Nothing in it but what a list of categories says, however deep they stand in each other. */
const speaksOfCategories = ({ fields }: SchemaReading): boolean =>
  fields.every(({ path }) => categoryWords.test(path.split("/").at(-1) ?? ""));

function treePapers(trees: readonly TreePaper[]) {
  const schemas: SchemaReading[] = [];
  const categories: CategoryList[] = [];
  const told: string[] = [];
  for (const tree of trees) {
    const reading = isXmlSchema(tree)
      ? readXmlSchema(tree)
      : isJsonSchema(tree)
        ? readJsonSchema(tree)
        : undefined;
    if (reading !== undefined) {
      schemas.push(reading);
      addAll(told, reading.told);
    } else if (isXmlSchema(tree) || isJsonSchema(tree))
      told.push(`${tree.file}: a schema without an element or object that a listing could be`);
    else {
      const sample = readSample(tree);
      const listed = categoryTreePaper(tree);
      const isFeed = sample?.format === "rss" || sample?.format === "atom";
      const isList =
        listed !== undefined &&
        !isFeed &&
        (sample === undefined || sample.fields.length <= 5 || speaksOfCategories(sample));
      if (isList) categories.push(listed);
      else if (sample !== undefined) schemas.push(sample);
      else if (listed !== undefined) categories.push(listed);
      else told.push(`${tree.file}: nothing in it is known as a schema, a sample or a list of categories`);
    }
  }
  return { schemas, categories, told };
}

/** Says of each paper what it is for. `wanted` is the sheet that a person named. */
export function sortPapers(papers: readonly Paper[], wanted?: string): SortedPapers {
  const sheets = papers.filter((paper) => paper.paper === "sheet");
  const legends = new Map(
    sheets.map(({ file }) => [file, legendOf(sheets.filter((one) => one.file === file))] as const),
  );
  const trees = treePapers(papers.filter((paper) => paper.paper === "tree"));
  const names = new Set(
    sheets.flatMap((sheet) => {
      const head = headOfSheet(sheet, legends.get(sheet.file));
      return head === undefined ? [] : headingsOf({ sheet, head });
    }),
  );
  const candidates: Template[] = [];
  const guides: GuideSheet[] = [];
  const categories: CategoryList[] = [...trees.categories];
  const rest: SheetPaper[] = [];
  const reports: Template[] = [];
  for (const sheet of sheets) {
    const head = headOfSheet(sheet, legends.get(sheet.file));
    const template = head === undefined ? undefined : { sheet, head };
    if (wanted !== undefined && sheet.sheet === wanted && template !== undefined) {
      candidates.push(template);
      continue;
    }
    const guide = guideSheet(sheet);
    if (guide !== undefined && looksLikeGuide(guide, sheet, names)) guides.push(guide);
    else if (template !== undefined && isReport(template) && sheet.sheet === "") reports.push(template);
    else {
      const listed =
        template !== undefined && (ruled(template) || template.head.width > 8)
          ? undefined
          : categorySheet(sheet);
      if (listed !== undefined) categories.push(listed);
      else if (template !== undefined && (wanted === undefined || sheet.sheet === ""))
        candidates.push(template);
      else rest.push(sheet);
    }
  }
  // Sheets whose columns are lists for the columns of another are no templates.
  const files = byFile(candidates).map((own) => chosenOf(own, wanted));
  const templates = files.flatMap((one) => one.templates);
  const { kept, lives } = withoutEchoes(templates);
  return {
    templates: kept,
    filled: files.flatMap((one) => one.filled),
    guides,
    categories,
    schemas: trees.schemas,
    reports: kept.length === 0 && trees.schemas.length === 0 ? [] : reports,
    lives,
    rest: [...rest, ...files.flatMap((one) => one.rest)],
    told: [...trees.told, ...files.flatMap((one) => one.told)],
    faults: files.flatMap((one) => one.faults),
  };
}

const addedByChannel =
  /id$|entry|listing|since|state|status|shown|live|date|views|link|rank|kennung|seit|datum|stand|fecha|estado|depuis|etat/;

/** Of tables in files of their own, those that echo another: an export of live listings shares columns and has some of its own. */
function withoutEchoes(templates: readonly Template[]) {
  const lives: Template[] = [];
  const kept = templates.filter((one) => {
    if (one.sheet.sheet !== "" || ruled(one)) return true;
    const own = headingsOf(one);
    const wider = templates.find(
      (other) =>
        other !== one &&
        other.head.width > one.head.width &&
        shared(own, headingsOf(other)) >= Math.max(2, own.length * 0.4),
    );
    if (wider === undefined) return true;
    // What a channel adds to an export: its own id, a state, a day. Without that it is a template of another branch.
    const known = new Set(headingsOf(wider));
    const ofChannel = own.some((heading) => !known.has(heading) && addedByChannel.test(heading));
    if (one.head.examples === 0 || !ofChannel) return true;
    lives.push(one);
    return false;
  });
  return { kept, lives };
}
