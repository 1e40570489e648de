/** Reports and exports of a played channel, in its own layout. Shares no code with how we read them. */
import type { ChannelData, FileColumn, Results } from "./channel-data.js";
import type { ListedThing, Verdict } from "./played-channel.js";
import { flat, type SentCell } from "./read-rows.js";
import { at as valueAt, put } from "./named.js";

const xml = (text: string): string =>
  text.replace(
    /[&<>"]/g,
    (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign] ?? sign,
  );

const quoted = (text: string, delimiter: string): string =>
  text.includes(delimiter) || /["\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;

const tableText = (rows: readonly (readonly string[])[], delimiter: string): string =>
  rows
    .map((row) =>
      row
        .map((cell) => (delimiter === "\t" ? cell.replace(/[\t\r\n]+/g, " ") : quoted(cell, delimiter)))
        .join(delimiter),
    )
    .join("\r\n") + "\r\n";

interface AnswerElement {
  readonly name: string;
  text: string;
  readonly attributes: Record<string, string>;
  readonly children: AnswerElement[];
}

const element = (name: string): AnswerElement => ({ name, text: "", attributes: {}, children: [] });

/** Puts a cell where its path leads, with an element of its own for each item of a list. */
function putAt(root: AnswerElement, path: string, cell: SentCell, item: string | undefined): void {
  const steps = path.split("/");
  const last = steps.pop() ?? "";
  let at = root;
  for (const step of steps) {
    const known = at.children.find(({ name }) => name === step);
    const next = known ?? element(step);
    if (known === undefined) at.children.push(next);
    at = next;
  }
  if (last.startsWith("@")) put(at.attributes, last.slice(1), flat(cell));
  else if (item !== undefined && typeof cell !== "string") {
    const list = element(last);
    for (const text of cell) list.children.push({ ...element(item), text });
    at.children.push(list);
  } else
    for (const text of typeof cell === "string" ? [cell] : cell) at.children.push({ ...element(last), text });
}

function written({ name, text, attributes, children }: AnswerElement, indent: string): string {
  const tag =
    name +
    Object.entries(attributes)
      .map(([key, value]) => ` ${key}="${xml(value)}"`)
      .join("");
  return children.length === 0
    ? `${indent}<${tag}>${xml(text)}</${name}>\n`
    : `${indent}<${tag}>\n${children.map((child) => written(child, `${indent}  `)).join("")}${indent}</${name}>\n`;
}

const document = (root: string, elements: readonly AnswerElement[]): string =>
  `<?xml version="1.0" encoding="UTF-8"?>\n<${root}>\n${elements.map((one) => written(one, "  ")).join("")}</${root}>\n`;

function delimiterOf(format: string, { layout }: ChannelData): string {
  if (format === "tsv") return "\t";
  const own = layout.settings["separator"];
  return typeof own === "string" ? own : ",";
}

/** A report in the channel's own layout. */
export function reportText(verdicts: readonly Verdict[], results: Results, data: ChannelData): string {
  const { ref, state, code, message, row, id, field, accepted } = results;
  const pairsOf = (verdict: Verdict): readonly (readonly [string, string])[] =>
    (
      [
        [row, verdict.line === 0 ? "" : String(verdict.line)],
        [ref, verdict.reference],
        [id, verdict.id],
        [state, verdict.isAccepted ? (accepted[0] ?? "") : "turned down"],
        [code, verdict.code],
        [field, verdict.field],
        [message, verdict.message],
      ] as const
    ).flatMap(([name, text]) => (name === undefined ? [] : [[name, text] as const]));
  const head = pairsOf({
    reference: "",
    line: 0,
    isAccepted: true,
    id: "",
    code: "",
    field: "",
    message: "",
  }).map(([name]) => name);
  switch (results.format) {
    case "csv":
    case "tsv":
      return tableText(
        [head, ...verdicts.map((verdict) => pairsOf(verdict).map(([, text]) => text))],
        delimiterOf(results.format, data),
      );
    case "xml": {
      const [root = "", record = ""] = ref.split("/").filter(Boolean);
      return document(
        root,
        verdicts.map((verdict) => {
          const own = element(record);
          for (const [path, text] of pairsOf(verdict))
            if (text !== "") putAt(own, path.split("/").filter(Boolean).slice(2).join("/"), text, undefined);
          return own;
        }),
      );
    }
    default:
      return `${JSON.stringify(
        verdicts.map((verdict) => Object.fromEntries(pairsOf(verdict))),
        null,
        1,
      )}\n`;
  }
}

/** What the channel shows, in its export's layout. */
export function liveText(shown: readonly ListedThing[], data: ChannelData): string {
  const live = data.exchange.live ?? {};
  const { id: idColumn = "", kind = "", group_kind: groupKind = "", format = "csv", records = "" } = live;
  const columns = data.live.columns.filter(({ name }) => name !== kind && name !== idColumn);
  const marks = columns.filter(({ field }) => field !== "");
  const kindOf = ({ isGroup, cells }: ListedThing): string =>
    isGroup ? groupKind : flat(valueAt(cells, kind)) || "single";
  const cellOf = (one: ListedThing, { name }: FileColumn): string => {
    const cell = valueAt(one.cells, name);
    return cell === undefined ? "" : typeof cell === "string" ? cell : cell.join("|");
  };
  switch (format) {
    case "csv":
    case "tsv": {
      const head = [idColumn, ...(kind === "" ? [] : [kind]), ...marks.map(({ name }) => name)];
      return tableText(
        [
          head,
          ...shown.map((one) => [
            one.id,
            ...(kind === "" ? [] : [kindOf(one)]),
            ...marks.map((column) => cellOf(one, column)),
          ]),
        ],
        delimiterOf(format, data),
      );
    }
    case "xml": {
      const [root = "", record = ""] = records.split("/").filter(Boolean);
      return document(
        root,
        shown.map((one) => {
          const own = element(record);
          put(own.attributes, idColumn.replace("@", ""), one.id);
          if (kind !== "") put(own.attributes, kind.replace("@", ""), kindOf(one));
          if (one.group !== "" && !one.isGroup)
            putAt(
              own,
              data.live.columns.find(({ field }) => field === data.groupField)?.path ?? "",
              one.group,
              undefined,
            );
          for (const column of marks) {
            const cell = valueAt(one.cells, column.name);
            if (cell !== undefined) putAt(own, column.path, cell, column.item);
          }
          return own;
        }),
      );
    }
    default:
      return shown.map((one) => `${JSON.stringify({ [idColumn]: one.id, ...one.cells })}\n`).join("");
  }
}
