/** Files as a played channel reads them, by the definition's layouts. */
import papaparse from "papaparse";
import { SaxesParser, type SaxesTagPlain } from "saxes";
import type { ChannelData, FileColumn, Layout } from "./channel-data.js";
import { at, put } from "./named.js";

/** A cell, or the items of a list. */
export type SentCell = string | readonly string[];

/** A row as it came: cells by the layout's column names. */
export interface ArrivedRow {
  /** As a spreadsheet counts, or the record's number. */
  readonly line: number;
  readonly isGroup: boolean;
  readonly cells: Readonly<Record<string, SentCell>>;
  /** The group's own fields, where a member stands within it. */
  readonly within: Readonly<Record<string, SentCell>>;
  /** What the row says is to happen to it; "". */
  readonly action: string;
}

/** Why a file is none of the channel's. */
export class Unreadable extends Error {}

/** A cell as one text. */
export const flat = (cell: SentCell | undefined): string =>
  cell === undefined ? "" : typeof cell === "string" ? cell : cell.join("\n");

function settingOf({ settings }: Layout, name: string, otherwise: string): string {
  const value = at(settings, name);
  return typeof value === "string" ? value : otherwise;
}

function fromTable(grid: readonly (readonly string[])[], data: ChannelData): readonly ArrivedRow[] {
  const { layout } = data;
  const [head = [], ...body] = grid;
  const byName = new Map<string, string>();
  for (const { name, label } of layout.columns) byName.set(name.trim(), name).set(label.trim(), name);
  const names = head.map((title) => byName.get(title.trim()));
  if (names[0] === undefined && names.every((name) => name === undefined))
    throw new Unreadable("its head row has none of our columns");
  const groupWord = settingOf(layout, "group_row", "group");
  const marks = new Map(
    layout.columns.filter(({ field }) => field === "").map(({ name }, index) => [name, index] as const),
  );
  const kindColumn = data.exchange.live?.["kind"] ?? "";
  const groups = new Map<string, Readonly<Record<string, SentCell>>>();
  return body.flatMap((cells, index): readonly ArrivedRow[] => {
    if (cells.every((cell) => cell === "")) return [];
    const own: Record<string, SentCell> = {};
    names.forEach((name, at) => {
      const cell = cells[at] ?? "";
      if (name !== undefined && cell !== "") put(own, name, cell);
    });
    const isGroup = kindColumn !== "" && at(own, kindColumn) === groupWord;
    const group = flat(at(own, data.groupField));
    if (isGroup) groups.set(group, own);
    const actionColumn = [...marks.keys()].find((name) => name !== kindColumn);
    return [
      {
        line: index + 2,
        isGroup,
        cells: own,
        within: isGroup ? {} : (groups.get(group) ?? {}),
        action: actionColumn === undefined ? "" : flat(at(own, actionColumn)),
      },
    ];
  });
}

interface Node {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: Node[];
  text: string;
}

function treeOf(text: string): Node {
  const top: Node = { name: "", attributes: {}, children: [], text: "" };
  const open: Node[] = [top];
  const parser = new SaxesParser();
  parser.on("error", (error) => {
    throw new Unreadable(`it is no well-formed XML: ${error.message}`);
  });
  parser.on("opentag", ({ name, attributes }: SaxesTagPlain) => {
    const node: Node = { name, attributes, children: [], text: "" };
    open.at(-1)?.children.push(node);
    open.push(node);
  });
  parser.on("closetag", () => void open.pop());
  parser.on("text", (piece) => {
    const last = open.at(-1);
    if (last !== undefined) last.text += piece;
  });
  parser.write(text).close();
  return top;
}

/** What a tree has for a column. */
function cellIn(node: Node, { path, item }: FileColumn): SentCell | undefined {
  const steps = path.split("/");
  const last = steps.at(-1) ?? "";
  let found: readonly Node[] = [node];
  for (const step of last.startsWith("@") ? steps.slice(0, -1) : steps)
    found = found.flatMap(({ children }) => children.filter(({ name }) => name === step));
  if (last.startsWith("@")) return at(found[0]?.attributes ?? {}, last.slice(1));
  if (item !== undefined)
    return found.flatMap(({ children }) =>
      children.filter(({ name }) => name === item).map(({ text }) => text),
    );
  if (found.length > 1) return found.map(({ text }) => text);
  return found[0]?.text;
}

function fromXml(text: string, { layout }: ChannelData): readonly ArrivedRow[] {
  const [group, member] = [settingOf(layout, "group", "group"), settingOf(layout, "member", "listing")];
  const attribute = settingOf(layout, "action_attribute", "");
  const root = treeOf(text).children[0];
  if (root?.name !== settingOf(layout, "root", "listings")) throw new Unreadable("its root is not ours");
  const cellsOf = (node: Node): Readonly<Record<string, SentCell>> =>
    Object.fromEntries(
      layout.columns.flatMap((column) => {
        const cell = cellIn(node, column);
        return cell === undefined || cell.length === 0 ? [] : [[column.name, cell] as const];
      }),
    );
  let line = 0;
  const rowOf = (node: Node, isGroup: boolean, within: Readonly<Record<string, SentCell>>): ArrivedRow => ({
    line: ++line,
    isGroup,
    within,
    cells: cellsOf(node),
    action: at(node.attributes, attribute) ?? "",
  });
  return root.children.flatMap((node): readonly ArrivedRow[] => {
    if (node.name === member) return [rowOf(node, false, {})];
    if (node.name !== group) return [];
    const own = rowOf(node, true, {});
    return [
      own,
      ...node.children.filter(({ name }) => name === member).map((one) => rowOf(one, false, own.cells)),
    ];
  });
}

const fromJson = (objects: readonly unknown[]): readonly ArrivedRow[] =>
  objects.map((object, index) => {
    const cells: Record<string, SentCell> = {};
    const take = (prefix: string, value: unknown): void => {
      if (Array.isArray(value)) put(cells, prefix, value.map(String));
      else if (typeof value === "object" && value !== null)
        for (const [name, inner] of Object.entries(value))
          take(prefix === "" ? name : `${prefix}.${name}`, inner);
      else if (typeof value === "boolean") put(cells, prefix, value ? "yes" : "no");
      else if (typeof value === "string" || typeof value === "number") put(cells, prefix, String(value));
    };
    take("", object);
    return { line: index + 1, isGroup: false, cells, within: {}, action: "" };
  });

function grid(text: string, delimiter: string): readonly (readonly string[])[] {
  const parsed = papaparse.parse<string[]>(text.replace(/^\ufeff/, ""), { delimiter, skipEmptyLines: true });
  if (parsed.errors.length > 0) throw new Unreadable(parsed.errors[0]?.message ?? "it is no table");
  return parsed.data;
}

/** Cells of a tab-separated file as they were before their tabs and line ends were written as spaces. */
const unquotedTabs = (text: string): readonly (readonly string[])[] =>
  text
    .replace(/^\ufeff/, "")
    .split(/\r?\n/)
    .filter(Boolean)
    .map((line) => line.split("\t"));

/** Reads a file of the layout that the channel takes. @throws Unreadable */
export async function readRows(bytes: Buffer, data: ChannelData): Promise<readonly ArrivedRow[]> {
  const { layout } = data;
  const text = (): string => bytes.toString("utf8");
  try {
    switch (layout.format) {
      case "csv":
        return fromTable(grid(text(), settingOf(layout, "separator", ",")), data);
      case "tsv":
        return fromTable(unquotedTabs(text()), data);
      case "xml":
        return fromXml(text(), data);
      case "jsonl":
      case "jsonld":
        return fromJson(
          text()
            .split("\n")
            .filter(Boolean)
            .map((line): unknown => JSON.parse(line)),
        );
      case "json":
        return fromJson(JSON.parse(text()) as unknown[]);
      case "xlsx": {
        const { readXlsx } = await import("hucre/xlsx");
        const book = await readXlsx(new Uint8Array(bytes));
        const sheet = book.sheets.find(({ name }) => name === settingOf(layout, "sheet", "Sheet1"));
        if (sheet === undefined) throw new Unreadable("it has no sheet of ours");
        return fromTable(
          sheet.rows.map((row) => row.map((cell) => (cell === null ? "" : String(cell as string | number)))),
          data,
        );
      }
      default:
        throw new Unreadable(`files of the kind ${layout.format} are not taken here`);
    }
  } catch (error) {
    if (error instanceof Unreadable) throw error;
    throw new Unreadable(`it cannot be read: ${(error as Error).message}`);
  }
}
