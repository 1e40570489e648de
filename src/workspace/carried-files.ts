/** Decision files carried over to another version of their channel; comments, order and form stay. */
import { isMap, isScalar, parseDocument, type Document, type Pair, type Scalar, type YAMLMap } from "yaml";
import { carriedFill, type CarriedRow } from "../core/learning/carry-over.js";
import type { Renamings } from "../core/learning/compare-definitions.js";
import { lineAsItIs, neutral } from "../formats/csv-writer.js";
import { rawRecords, tableBytes, tableText } from "../formats/table-form.js";
import type { SuggestedFill } from "./starting-fills.js";
import { cleanText } from "../core/values/text.js";

/** A decision file as it is carried over, and what of it a person has to look at. */
export interface CarriedFile {
  readonly bytes: Buffer;
  readonly changed: number;
  /** Each with what stood there, and why it does not hold any more. */
  readonly open: readonly { readonly what: string; readonly reason: string }[];
}

/** Carries a decision table over, row by row; comments, order, own columns and its form stay. */
export function carriedTable(
  before: Buffer,
  carry: (cell: (column: string) => string) => CarriedRow,
  version: string,
): CarriedFile {
  const { text, form } = tableText(before);
  const [head, ...rest] = rawRecords(text, form.delimiter);
  const header = (head?.cells ?? []).map((name) => name.trim());
  const open: { what: string; reason: string }[] = [];
  let changed = 0;
  const lines = rest.map((record) => {
    const { cells, text: own } = record;
    if (own.trim() === "" || (cells[0] ?? "").trimStart().startsWith("#")) return own;
    const row = carry((column) => cleanText(cells[header.indexOf(column)] ?? ""));
    if (row.row === "same") return own;
    if (row.row === "open") {
      open.push({ what: cells.filter(Boolean).join(", "), reason: row.reason });
      return `# ${version}: ${row.reason}: ${own}`;
    }
    changed++;
    const values = new Map(Object.entries(row.cells));
    return lineAsItIs(
      header.map((column, at) => {
        const value = values.get(column);
        return value === undefined ? (cells[at] ?? "") : neutral(value);
      }),
      form.delimiter,
      record.lineEnd,
    );
  });
  return { bytes: tableBytes([head?.text ?? "", ...lines].join(""), form), changed, open };
}

const scalarText = (scalar: Scalar | null): string =>
  typeof scalar?.value === "string" || typeof scalar?.value === "number" ? String(scalar.value) : "";

type Fills = YAMLMap<Scalar<string>, Scalar | null>;

/** Carries `fills.yaml` over: fields, categories and values by their new names; what fills nothing any more becomes a comment. */
export function carriedFills(
  before: Buffer,
  renamings: Renamings,
  attributes: ReadonlySet<string>,
  version: string,
  /** Fills for fields that came with the version. */
  added: readonly SuggestedFill[],
): CarriedFile {
  const document = parseDocument(before.toString());
  const open: { what: string; reason: string }[] = [];
  let changed = 0;
  const carryMap = (map: Fills): void => {
    const lost: Pair<Scalar<string>, Scalar | null>[] = [];
    for (const pair of map.items) {
      const field = pair.key.value;
      if (renamings.fields.has(field)) {
        const to = renamings.fields.get(field);
        if (to === undefined) {
          lost.push(pair);
          continue;
        }
        pair.key.value = to;
        changed++;
      }
      const fill = pair.value?.value;
      if (typeof fill !== "string" || pair.value === null) continue;
      // A text in quotes is an expression: its quotes are the language's.
      const isQuoted = pair.value.type === "QUOTE_DOUBLE";
      const carried = carriedFill(isQuoted ? JSON.stringify(fill) : fill, field, renamings, attributes);
      const next = isQuoted ? (JSON.parse(carried) as string) : carried;
      if (next === fill) continue;
      pair.value.value = next;
      changed++;
    }
    for (const pair of lost) {
      const what = `${pair.key.value}: ${scalarText(pair.value)}`;
      open.push({ what, reason: "the channel has no such field any more" });
      map.items.splice(map.items.indexOf(pair), 1);
    }
  };
  const root = document.contents;
  if (isMap(root))
    for (const block of root.items) {
      const name = isScalar(block.key) ? String(block.key.value) : "";
      if (!isMap(block.value)) continue;
      if (name === "all") carryMap(block.value as Fills);
      else
        carryBlocks(
          block.value as YAMLMap<Scalar<string>, Fills>,
          name === "channel_categories" ? renamings.categories : new Map(),
          carryMap,
          open,
          () => changed++,
        );
    }
  for (const { code, label, fill } of added.filter(({ isReady }) => isReady)) {
    if (document.hasIn(["all", code])) continue;
    if (!isMap(document.get("all"))) document.set("all", document.createNode({}));
    const key = document.createNode(code);
    key.commentBefore = ` ${label}: new with ${version}`;
    (document.get("all") as YAMLMap).add(document.createPair(key, expressionNode(document, fill)));
    changed++;
  }
  const note =
    open.length === 0
      ? ""
      : `\n# ${version}: what filled fields that the channel does not have any more\n${open.map(({ what }) => `#   ${what.replaceAll("\n", " ")}\n`).join("")}`;
  const text = changed === 0 && open.length === 0 ? before.toString() : withNote(document, note);
  return { bytes: Buffer.from(text), changed, open };
}

/** An expression that is one text in quotes keeps them; others stand as they are. */
function expressionNode(document: Document, fill: string): Scalar {
  const isText = /^"(?:[^"\\]|\\.)*"$/.test(fill);
  const node = document.createNode(isText ? (JSON.parse(fill) as string) : fill) as Scalar;
  if (isText) node.type = "QUOTE_DOUBLE";
  return node;
}

const withNote = (document: Document, note: string): string =>
  `${document.toString({ lineWidth: 0 }).trimEnd()}\n${note}`;

function carryBlocks(
  blocks: YAMLMap<Scalar<string>, Fills>,
  categories: Renamings["categories"],
  carryMap: (map: Fills) => void,
  open: { what: string; reason: string }[],
  onChange: () => void,
): void {
  for (const pair of [...blocks.items]) {
    const code = pair.key.value;
    const to = categories.get(code);
    if (categories.has(code) && to === undefined) {
      open.push({
        what: `channel_categories, ${code}`,
        reason: `the channel has no category ${code} any more`,
      });
      blocks.items.splice(blocks.items.indexOf(pair), 1);
      continue;
    }
    if (to !== undefined) {
      pair.key.value = to;
      onChange();
    }
    if (isMap(pair.value)) carryMap(pair.value);
  }
}

/** A file of YAML that names its version, with another one; all else of it stays as it is written. */
export const withVersion = (yaml: string, version: string): string =>
  yaml.replace(/^(version:\s*)(?:"[^"\n]*"|'[^'\n]*'|[^\s#]+)/m, `$1"${version}"`);

/** `channel.yaml` with its new version; everything else of it is the person's. */
export function carriedPolicy(before: Buffer, version: string): CarriedFile {
  const text = before.toString();
  const next = withVersion(text, version);
  return { bytes: Buffer.from(next), changed: next === text ? 0 : 1, open: [] };
}
