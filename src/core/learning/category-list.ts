/**
 * Lists of categories in the shapes that channels give them: paths, levels side by side, parents by code, indents,
 * words below each other.
 */
import { plainWords } from "./plain-words.js";
import { fold } from "../values/text.js";
import { textAt, type SheetPaper, type TreeNode, type TreePaper } from "./paper.js";

/** A category as a paper lists it. */
export interface ListedCategory {
  readonly code: string;
  readonly parent: string;
  readonly name: string;
  /** The row or line, from 1. */
  readonly row: number;
}

/** A paper's list of categories. */
export interface CategoryList {
  readonly file: string;
  readonly sheet: string;
  readonly categories: readonly ListedCategory[];
  /** Rows that could not be placed, each with why. */
  readonly broken: readonly { readonly row: number; readonly reason: string }[];
  readonly shape: "path" | "levels" | "parents" | "indented" | "nested";
}

type CategoryDraft = { code: string; parent: string; name: string; row: number };

const pathMark = /\s*(?:>|»|›|→|\\|::|\|)\s*|\s+\/\s+|(?<=[\p{L}\p{N}])\/(?=[\p{L}])/u;

/** The steps of a path, whatever parts them; one where it is none. */
export function pathSteps(text: string): readonly string[] {
  return text
    .split(pathMark)
    .map((step) => step.trim())
    .filter(Boolean);
}

/** A code for a category that the channel names in words alone. */
export function codeOf(steps: readonly string[]): string {
  return steps
    .map((step) =>
      fold(step)
        .replace(/[^\p{L}\p{N}]+/gu, "-")
        .replace(/^-|-$/g, ""),
    )
    .join(".");
}

const heads = {
  code: /^(?:id|code|category id|category code|node|node id|number|nr|no|key|kennung|kategorie id|schlussel|codigo|clave|identifiant|code categorie|branch|branch code|department id)$/,
  parent:
    /(?:^| )(?:parent|parents?|above|belongs to|uber|oberkategorie|ubergeordnet\p{L}*|eltern|parente?|pere|superieure?|padre|superior)(?: |$)/u,
  name: /^(?:name|label|title|category|category name|department|bezeichnung|kategorie|warengruppe|nom|libelle|categorie|rayon|nombre|denominacion|categoria|seccion|branch)$/,
  path: /(?:^| )(?:path|full path|full name|breadcrumb|tree|hierarchy|pfad|chemin|arborescence|ruta|jerarquia|camino|branch)(?: |$)/,
  level:
    /^(?:level|ebene|stufe|niveau|nivel|tier|livello|l|(?:sub ?)?(?:category|kategorie|categorie|categoria|department|branch)(?: level)?|main category) ?\d$/,
} as const;

/** Adds the steps of a path that no row of its own names. */
function byPaths(
  rows: readonly { readonly steps: readonly string[]; readonly code: string; readonly row: number }[],
): readonly ListedCategory[] {
  const named = new Map<string, string>();
  for (const { steps, code } of rows) if (code !== "") named.set(steps.join("\u0000"), code);
  const codeAt = (steps: readonly string[]): string => named.get(steps.join("\u0000")) ?? codeOf(steps);
  const found = new Map<string, ListedCategory>();
  for (const { steps, row } of rows)
    for (let depth = 1; depth <= steps.length; depth++) {
      const own = steps.slice(0, depth);
      const at = own.join("\u0000");
      if (!found.has(at))
        found.set(at, {
          code: codeAt(own),
          parent: depth === 1 ? "" : codeAt(own.slice(0, -1)),
          name: own.at(-1) ?? "",
          row,
        });
    }
  return [...found.values()];
}

/** Rows whose parent is not there, that are named twice, or that come round to themselves are told and left out. */
export function withWholeParents(
  drafts: readonly CategoryDraft[],
): Pick<CategoryList, "categories" | "broken"> {
  const byCode = new Map<string, CategoryDraft>();
  const broken: { row: number; reason: string }[] = [];
  for (const draft of drafts) {
    if (draft.code === "" || draft.name === "")
      broken.push({
        row: draft.row,
        reason: draft.code === "" ? "it has no code" : `"${draft.code}" has no name`,
      });
    else if (byCode.has(draft.code))
      broken.push({
        row: draft.row,
        reason: `the code "${draft.code}" stands in row ${byCode.get(draft.code)?.row ?? 0}, too`,
      });
    else byCode.set(draft.code, draft);
  }
  const states = new Map<string, "whole" | "broken" | "looking">();
  const reasonOf = new Map<string, string>();
  const isWhole = (draft: CategoryDraft): boolean => {
    const path: CategoryDraft[] = [];
    let at: CategoryDraft | undefined = draft;
    let result: "whole" | "broken" = "whole";
    while (at !== undefined) {
      const state = states.get(at.code);
      if (state === "whole" || state === "broken") {
        result = state;
        if (state === "broken") reasonOf.set(draft.code, `its branch above is broken`);
        break;
      }
      if (state === "looking") {
        result = "broken";
        reasonOf.set(draft.code, `"${at.code}" comes round to itself`);
        break;
      }
      states.set(at.code, "looking");
      path.push(at);
      if (at.parent === "") break;
      const parent = byCode.get(at.parent);
      if (parent === undefined) {
        result = "broken";
        reasonOf.set(at.code, `its parent "${at.parent}" is not in the list`);
      }
      at = parent;
    }
    for (const one of path) states.set(one.code, result);
    return result === "whole";
  };
  const categories = [...byCode.values()].filter((draft) => {
    if (isWhole(draft)) return true;
    broken.push({ row: draft.row, reason: reasonOf.get(draft.code) ?? "its branch above is broken" });
    return false;
  });
  return { categories, broken: broken.sort((a, b) => a.row - b.row) };
}

interface ListColumns {
  readonly row: number;
  readonly code: number | undefined;
  readonly parent: number | undefined;
  readonly name: number | undefined;
  readonly path: number | undefined;
  readonly levels: readonly number[];
}

function columnsOf(sheet: SheetPaper, row: number): ListColumns {
  const texts = (sheet.rows[row] ?? []).map((_, column) => plainWords(textAt(sheet, row, column)));
  const find = (pattern: RegExp, but: readonly (number | undefined)[] = []): number | undefined => {
    const at = texts.findIndex((text, column) => !but.includes(column) && pattern.test(text));
    return at < 0 ? undefined : at;
  };
  const parent = find(heads.parent);
  const path = find(heads.path, [parent]);
  const levels = texts.flatMap((text, column) =>
    column !== parent && heads.level.test(text) ? [column] : [],
  );
  const code = find(heads.code, [parent, path, ...levels]);
  const name = find(heads.name, [parent, path, code, ...levels]);
  return { row, code, parent, name, path, levels };
}

const bodyRows = (sheet: SheetPaper, from: number): readonly number[] =>
  sheet.rows.flatMap((cells, row) =>
    row > from && cells.some(({ text }) => text.trim() !== "") ? [row] : [],
  );

const MOST_HEAD_ROWS = 8;

/** Reads a sheet or table that lists categories, by its headings; undefined where it is none. */
function headedList(sheet: SheetPaper): CategoryList | undefined {
  for (let head = 0; head < Math.min(MOST_HEAD_ROWS, sheet.rows.length); head++) {
    const { code, parent, name, path, levels } = columnsOf(sheet, head);
    const rows = bodyRows(sheet, head);
    if (rows.length === 0) return undefined;
    const text = (row: number, column: number | undefined): string =>
      column === undefined ? "" : textAt(sheet, row, column);
    const { file, sheet: own } = sheet;
    if (parent !== undefined && (name !== undefined || code !== undefined)) {
      const label = name ?? code;
      const drafts = rows.map((row) => ({
        code: text(row, code ?? name),
        parent: parentOf(text(row, parent)),
        name: text(row, label),
        row: row + 1,
      }));
      return { file, sheet: own, ...withWholeParents(byNames(drafts)), shape: "parents" };
    }
    if (levels.length >= 2) {
      const steps = filledDown(rows.map((row) => levels.map((column) => text(row, column))));
      const listed = rows.map((row, at) => ({ steps: steps[at] ?? [], code: text(row, code), row: row + 1 }));
      return {
        file,
        sheet: own,
        ...withWholeParents(byPaths(listed.filter(({ steps: own }) => own.length > 0))),
        shape: "levels",
      };
    }
    const paths =
      path ??
      [name, code].find(
        (column) =>
          column !== undefined &&
          rows.filter((row) => pathSteps(text(row, column)).length > 1).length >=
            Math.max(1, rows.length * 0.4),
      );
    if (paths !== undefined && rows.some((row) => pathSteps(text(row, paths)).length > 1)) {
      const codes = code === paths ? undefined : code;
      const listed = rows.map((row) => ({
        steps: pathSteps(text(row, paths)),
        code: text(row, codes),
        row: row + 1,
      }));
      return {
        file,
        sheet: own,
        ...withWholeParents(byPaths(listed.filter(({ steps }) => steps.length > 0))),
        shape: "path",
      };
    }
  }
  return undefined;
}

/** "0", "-" and "none" are how a list writes that nothing stands above. */
const parentOf = (text: string): string =>
  /^(?:0|-|–|none|root|null|keine?|aucune?|ninguna?|top)$/i.test(text) ? "" : text;

/** Parents that are named by their name and not by their code. */
function byNames(drafts: readonly CategoryDraft[]): readonly CategoryDraft[] {
  const codes = new Set(drafts.map(({ code }) => code));
  const parents = drafts.filter(({ parent }) => parent !== "");
  if (parents.length === 0 || parents.some(({ parent }) => codes.has(parent))) return drafts;
  const named = new Map(drafts.map(({ name, code }) => [name, code]));
  return drafts.map((draft) => ({ ...draft, parent: named.get(draft.parent) ?? draft.parent }));
}

/** Levels of which only the last is written stand under those of the rows above. */
function filledDown(rows: readonly (readonly string[])[]): readonly (readonly string[])[] {
  let above: readonly string[] = [];
  return rows.map((levels) => {
    const first = levels.findIndex((text) => text !== "");
    const last = levels.findLastIndex((text) => text !== "");
    if (first < 0) return [];
    const steps = [...above.slice(0, first), ...levels.slice(first, last + 1)].filter((step) => step !== "");
    above = steps;
    return steps;
  });
}

/** Lines of text: paths, or names that their indent puts under those above. */
function textLines(sheet: SheetPaper): CategoryList | undefined {
  const lines = sheet.rows.flatMap((cells, row) => {
    const filled = cells.findIndex(({ text }) => text.trim() !== "");
    if (filled < 0) return [];
    const { text } = cells[filled] ?? { text: "" };
    const indent = /^[\s\u00a0]*(?:[-–*•+.]\s*|[-–]{2,}\s*)*/u.exec(text)?.[0] ?? "";
    const depth = filled > 0 ? filled * 100 : indent.replaceAll("\t", "    ").length;
    return [
      {
        text: text.trim().replace(/^(?:[-–*•+.]\s*)+/u, ""),
        depth,
        row: row + 1,
        isAlone: cells.filter((one) => one.text.trim() !== "").length === 1,
      },
    ];
  });
  if (lines.length < 3 || lines.some(({ isAlone, text }) => !isAlone || text.length > 200)) return undefined;
  const { file, sheet: own } = sheet;
  if (lines.filter(({ text }) => pathSteps(text).length > 1).length >= lines.length * 0.4) {
    const listed = lines.map(({ text, row }) => ({ ...coded(text), row }));
    return { file, sheet: own, ...withWholeParents(byPaths(listed)), shape: "path" };
  }
  if (!lines.some(({ depth }) => depth > 0)) return undefined;
  const stack: { depth: number; name: string }[] = [];
  const listed = lines.map(({ text, depth, row }) => {
    while ((stack.at(-1)?.depth ?? -1) >= depth) stack.pop();
    const { steps, code } = coded(text);
    stack.push({ depth, name: steps.join(" / ") });
    return { steps: stack.map(({ name }) => name), code, row };
  });
  return { file, sheet: own, ...withWholeParents(byPaths(listed)), shape: "indented" };
}

/** A line that begins or ends with its code: `1010 Hives`, `Hives (1010)`, `HV - Hives`. */
function coded(text: string): { readonly steps: readonly string[]; readonly code: string } {
  const before = /^([A-Z0-9][A-Z0-9._-]*\d[A-Z0-9._-]*|\d+)\s*[-–:;\t ]\s*(\p{L}.*)$/u.exec(text);
  if (before !== null) return { steps: pathSteps(before[2] ?? ""), code: before[1] ?? "" };
  const behind = /^(.*\S)\s*[([]([A-Z0-9._-]*\d[A-Z0-9._-]*)[)\]]$/u.exec(text);
  if (behind !== null) return { steps: pathSteps(behind[1] ?? ""), code: behind[2] ?? "" };
  return { steps: pathSteps(text), code: "" };
}

/** Reads a sheet as a list of categories; undefined where it is none. */
export function categorySheet(sheet: SheetPaper): CategoryList | undefined {
  const list = headedList(sheet) ?? textLines(sheet);
  return list === undefined || (list.categories.length < 2 && list.broken.length === 0) ? undefined : list;
}

function memberOf(node: TreeNode, pattern: RegExp): string {
  for (const [name, value] of node.attributes) if (pattern.test(plainWords(name))) return value;
  const child = node.children.find(
    ({ name, children }) => children.length === 0 && pattern.test(plainWords(name)),
  );
  return child?.text.trim() ?? "";
}

const namePattern = /^(?:name|label|title|text|category name|bezeichnung|nom|libelle|nombre|titel)$/;

/** A tree of XML or JSON that lists categories, nested or by parents; undefined where it is none. */
export function categoryTreePaper({ file, root }: TreePaper): CategoryList | undefined {
  const drafts: CategoryDraft[] = [];
  let [isNested, seen] = [false, 0];
  const visit = (node: TreeNode, above: string, steps: readonly string[]): void => {
    const name = memberOf(node, namePattern);
    const path = memberOf(node, heads.path);
    const code = memberOf(node, heads.code);
    const own = name === "" && path !== "" ? path : name;
    let [parent, at] = [above, steps];
    if (own !== "" && node !== root) {
      at = name === "" ? pathSteps(path) : [...steps, name];
      const stated = memberOf(node, heads.parent);
      const written = code === "" ? codeOf(at) : code;
      if (above !== "") isNested = true;
      drafts.push({
        code: written,
        parent: stated === "" ? above : parentOf(stated),
        name: at.at(-1) ?? "",
        row: node.line || ++seen,
      });
      parent = written;
    }
    for (const child of node.children) visit(child, parent, at);
  };
  visit(root, "", []);
  if (drafts.length < 2) return undefined;
  return { file, sheet: "", ...withWholeParents(drafts), shape: isNested ? "nested" : "parents" };
}
