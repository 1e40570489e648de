/** How groups stand in a file: rows of their own, a name that members share, rows that carry on. */
import { columnExpression, textExpression } from "./expressions.js";
import type { FileSample, ProposedAttribute, ProposedGroups } from "./source-proposal.js";

const plain = (expression: string): string | undefined =>
  /^(?:[\p{L}_][\p{L}\p{N}_]*|`[^`]+`)$/u.test(expression) ? expression.replaceAll("`", "") : undefined;

function columnOf(
  attributes: readonly ProposedAttribute[],
  attribute: string,
  header: readonly string[],
): number {
  const found = attributes.find((entry) => entry.attribute === attribute);
  return found === undefined ? -1 : header.indexOf(plain(found.expression) ?? found.columns[0] ?? "");
}

/** Runs of rows that belong to one group, of two rows or more. */
function runs(rows: FileSample["rows"], group: number): readonly FileSample["rows"][] {
  const found: (readonly string[])[][] = [];
  for (const cells of rows) {
    const name = cells[group] ?? "";
    const last = found.at(-1);
    if (name !== "" && last?.[0]?.[group] === name) last.push(cells);
    else found.push([cells]);
  }
  return found.filter((run) => run.length > 1 && run[0]?.[group] !== "");
}

/** Attributes that only a group's first row has, in nearly every group that shows them. */
function sharedAttributes(
  { header, rows }: FileSample,
  attributes: readonly ProposedAttribute[],
  group: number,
): readonly string[] {
  const groups = runs(rows, group);
  if (groups.length === 0) return [];
  return attributes.flatMap(({ attribute, columns }) => {
    const indexes = columns.map((column) => header.indexOf(column));
    if (attribute === "sku" || attribute === "group" || indexes.includes(group)) return [];
    const isFilled = (cells: readonly string[]): boolean => indexes.some((at) => (cells[at] ?? "") !== "");
    const shown = groups.filter(([first]) => first !== undefined && isFilled(first));
    const alone = shown.filter(([, ...rest]) => rest.every((cells) => !isFilled(cells)));
    const elsewhere = groups.some(
      ([first, ...rest]) => first !== undefined && !isFilled(first) && rest.some(isFilled),
    );
    return shown.length > 0 && alone.length >= shown.length * 0.9 && !elsewhere ? [attribute] : [];
  });
}

/** The condition that tells a group's own rows: a word in a column, or a price that only members have. */
function parentCondition(
  { header, rows }: FileSample,
  attributes: readonly ProposedAttribute[],
  isParent: (cells: readonly string[]) => boolean,
): string | undefined {
  const parents = rows.filter(isParent);
  const others = rows.filter((cells) => !isParent(cells));
  // What is a product's own cannot tell kinds of rows apart.
  const own = new Set(
    ["sku", "group", "name", "description"].map((attribute) => columnOf(attributes, attribute, header)),
  );
  for (const [index, column] of header.entries()) {
    const value = parents[0]?.[index] ?? "";
    if (value === "" || value.length > 30 || column === "" || own.has(index)) continue;
    if (parents.every((cells) => cells[index] === value) && others.every((cells) => cells[index] !== value))
      return `${columnExpression(column)} = ${textExpression(value)}`;
  }
  for (const attribute of ["price", "quantity", "gtin"]) {
    const at = columnOf(attributes, attribute, header);
    if (at < 0) continue;
    if (
      parents.every((cells) => (cells[at] ?? "") === "") &&
      others.every((cells) => (cells[at] ?? "") !== "")
    )
      return `${columnExpression(header[at] ?? "")} is blank`;
  }
  return undefined;
}

/** How groups appear in a file, as its first rows show it. */
export function groupLayout(sample: FileSample, attributes: readonly ProposedAttribute[]): ProposedGroups {
  const { header, rows } = sample;
  const [group, sku] = [columnOf(attributes, "group", header), columnOf(attributes, "sku", header)];
  if (group < 0) return { layout: "rows" };
  const names = new Set(rows.map((cells) => cells[group] ?? "").filter(Boolean));
  const isParent = (cells: readonly string[]): boolean =>
    sku >= 0 && names.has(cells[sku] ?? "") && ((cells[group] ?? "") === "" || cells[group] === cells[sku]);
  const when = rows.some(isParent) ? parentCondition(sample, attributes, isParent) : undefined;
  if (when !== undefined) return { layout: "own-row", when };
  const shared = sharedAttributes(sample, attributes, group);
  return shared.length > 0 ? { layout: "first-row", shared } : { layout: "rows" };
}

/** Attributes that further rows of the same product bring: rows with its key again, or none, and little else. */
export function furtherRows(
  { header, rows }: FileSample,
  attributes: readonly ProposedAttribute[],
): readonly string[] {
  const sku = columnOf(attributes, "sku", header);
  const images = attributes.find(({ attribute }) => attribute === "images");
  if (sku < 0 || images === undefined) return [];
  const at = images.columns.map((column) => header.indexOf(column));
  const group = columnOf(attributes, "group", header);
  const further = rows.filter((cells, index) => {
    const above = rows[index - 1]?.[sku] ?? "";
    const repeats = index > 0 && (cells[sku] === "" || cells[sku] === above);
    const onlyImages = cells.every(
      (cell, column) => cell === "" || column === sku || column === group || at.includes(column),
    );
    return repeats && onlyImages && at.some((column) => (cells[column] ?? "") !== "");
  });
  return further.length > 0 ? ["images"] : [];
}
