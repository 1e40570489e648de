/**
 * Trees as tables, for a proposal: a column for each path that holds values, lists joined, name-and-value pairs as
 * pairs.
 */
import { addAll } from "../../many.js";
import type { RecordNode } from "../../records/node.js";
import { recordPath, stepText } from "../../records/path.js";
import { isCurrency } from "../../values/currencies.js";
import { fold } from "../../values/text.js";
import { listText } from "../list-text.js";
import { attributeKind } from "../vocabulary.js";
import { columnName, isLanguage } from "./column-name.js";
import type { FileSample, ProposedPair } from "./source-proposal.js";

/** What trees show as a table: a column for each path, pairs that name attributes, and a currency that holds for all. */
export interface SampledTrees extends FileSample {
  readonly labels: readonly string[];
  readonly pairs: readonly ProposedPair[];
  readonly currency: string | undefined;
}

/** A path with what its steps say of its meaning, as the name of a column would. */
interface FoundPath {
  readonly path: string;
  readonly label: string;
}

/** So many records show what a file is. */
export const LOOKED_AT = 200;
const KINDS_LIMIT = 8;

/** Names under which a value stands whose meaning is its parent's. */
const generic =
  /^(?:value|values|amount|text|content|file|files|href|src|data|item|entry|wert|valeur|valor|waarde)$/;
const kindKeys =
  /^(?:kind|type|typ|list|usage|role|use|for|qualifier|class|art|soort|clase|tier|level|group|customer|place|warehouse|store|depot|location|site|branch|lager|filiale|magasin|magazzino|almacen|magazijn)$/;
const nameKeys = /^(?:name|key|label|attribute|property|feature|title|merkmal|nom|nombre|naam|nazwa|n|k)$/;
const attributeWords =
  /(?:attribut|spec|propert|feature|option|param|characteristic|fact|merkmal|eigenschaft|caract|kenmerk|cecha)/;

function textsOf(node: RecordNode): ReadonlyMap<string, string> {
  const found = new Map<string, string>(node.attributes);
  for (const { name, text } of node.children) if (text !== undefined && text !== "") found.set(name, text);
  return found;
}

/** Children of all nodes by name, each with the parent it has. */
function byName(nodes: readonly RecordNode[]): ReadonlyMap<string, readonly RecordNode[]> {
  const found = new Map<string, RecordNode[]>();
  for (const child of nodes.flatMap(({ children }) => children)) {
    const alike = found.get(child.name);
    if (alike === undefined) found.set(child.name, [child]);
    else alike.push(child);
  }
  return found;
}

function repeats(nodes: readonly RecordNode[]): boolean {
  const parents = new Set(nodes.map(({ parent }) => parent));
  return parents.size < nodes.length;
}

/** Whether no two nodes of one parent have the same value. */
function areApart(nodes: readonly RecordNode[], values: readonly (string | undefined)[]): boolean {
  const seen = new Map<RecordNode | undefined, Set<string | undefined>>();
  return nodes.every(({ parent }, at) => {
    const own = seen.get(parent) ?? new Set();
    seen.set(parent, own);
    return own.size < own.add(values[at]).size;
  });
}

const isLanguageKeyName = (key: string): boolean =>
  /^(?:lang|language|sprache|langue|taal|locale)$/.test(key);

/** Two keys that only together tell siblings apart: a kind of price in several currencies. */
function twoDiscriminators(
  nodes: readonly RecordNode[],
): readonly [kind: string, currency: string] | undefined {
  const [first] = nodes;
  if (first === undefined) return undefined;
  const keys = [...textsOf(first).keys()];
  const valuesOf = (key: string): readonly (string | undefined)[] =>
    nodes.map((node) => textsOf(node).get(key));
  const currency = keys.find((key) => {
    const values = valuesOf(key).filter((value) => value !== undefined);
    return values.length > nodes.length / 2 && values.every((value) => isCurrency(value));
  });
  const kind = keys.find(
    (key) => kindKeys.test(fold(key)) && valuesOf(key).every((value) => value !== undefined),
  );
  if (currency === undefined || kind === undefined || kind === currency) return undefined;
  const [kinds, codes] = [valuesOf(kind), valuesOf(currency)];
  const pairs = kinds.map((value, at) => `${value ?? ""}\u0000${codes[at] ?? ""}`);
  const isFew = new Set(pairs).size <= KINDS_LIMIT * 2 && new Set(codes).size > 1;
  // One price that is there twice, or names no currency, is a fault of that record.
  return isFew && apartShare(nodes, pairs) > 0.9 ? [kind, currency] : undefined;
}

/** The share of nodes whose value no other of the same parent has. */
function apartShare(nodes: readonly RecordNode[], values: readonly string[]): number {
  const seen = new Map<RecordNode | undefined, Set<string>>();
  let apart = 0;
  nodes.forEach(({ parent }, at) => {
    const own = seen.get(parent) ?? new Set();
    seen.set(parent, own);
    if (own.size < own.add(values[at] ?? "").size) apart++;
  });
  return nodes.length === 0 ? 0 : apart / nodes.length;
}

/** The key whose values tell siblings of one name apart, such as the kind of a price. */
function discriminator(
  nodes: readonly RecordNode[],
): { readonly key: string; readonly values: readonly string[] } | undefined {
  const [first] = nodes;
  if (first === undefined) return undefined;
  for (const [key] of textsOf(first)) {
    const values = nodes.map((node) => textsOf(node).get(key));
    if (values.some((value) => value === undefined)) continue;
    const isLanguageKey = isLanguageKeyName(key);
    const isKind = kindKeys.test(key);
    if (!isLanguageKey && !isKind && !nameKeys.test(key)) continue;
    // One that is there twice is a fault of its record, where there are few kinds.
    const areFew = isKind && new Set(values).size <= KINDS_LIMIT;
    const isTold = areFew
      ? apartShare(
          nodes,
          values.map((value) => value ?? ""),
        ) > 0.9
      : areApart(nodes, values);
    if (!isTold) continue;
    return { key, values: [...new Set(values.flatMap((value) => value ?? []))] };
  }
  return undefined;
}

/** A container whose keys name attributes: they are called so, or differ from record to record. */
function namesByKeys(name: string, nodes: readonly RecordNode[]): boolean {
  const filled = nodes.filter(({ children }) => children.length > 0);
  const isFlat = filled.every(({ children }) => children.every(({ text }) => text !== undefined));
  const haveOwnNames = filled.every(
    ({ children }) => new Set(children.map((child) => child.name)).size === children.length,
  );
  return filled.length > 0 && isFlat && haveOwnNames && attributeWords.test(fold(name));
}

/** A node that holds no more than a name and a value. */
const isNamedValue = ({ attributes, children }: RecordNode): boolean =>
  children.length === 0
    ? attributes.size === 1
    : children.length === 2 &&
      children[0]?.name !== children[1]?.name &&
      children.every(({ text }) => text !== undefined);

class Walk {
  readonly found: FoundPath[] = [];
  readonly pairs: ProposedPair[] = [];

  constructor(
    /** What leads from the record to the nodes: "", `../`, `/feed/`. */
    private readonly prefix: string,
    private readonly passedOver: string | undefined,
  ) {}

  private add(path: string, label: string): void {
    this.found.push({ path: this.prefix + path, label });
  }

  /** Looks at nodes of one path, and at all below them. */
  down(nodes: readonly RecordNode[], path: string, given: string): void {
    const isAmount = nodes.every(({ attributes: all }) =>
      [...all.keys()].some((key) => currencyWord.test(fold(key))),
    );
    const isPriced =
      isAmount && nodes.length > 0 && attributeKind(columnName(given).attribute ?? "").kind !== "money";
    const label =
      !isPriced || path === "" ? given : plainAmount.test(fold(given)) ? "price" : `${given} price`;
    const attributes = new Set(nodes.flatMap(({ attributes: own }) => [...own.keys()]));
    const under = path === "" ? "" : `${path}/`;
    const hasText = nodes.some(({ text }) => text !== undefined && text !== "");
    for (const name of attributes)
      if (name !== "lang" || !hasText) this.add(`${under}@${name}`, join(label, name));
    if (hasText) this.leaf(nodes, path, label);
    for (const [name, children] of byName(nodes))
      if (name !== this.passedOver || path !== "") this.child(name, children, under, label);
  }

  /** Siblings that a kind and a currency tell apart together. */
  private byTwo(
    children: readonly RecordNode[],
    path: string,
    own: string,
    [kind, currency]: readonly [string, string],
  ): void {
    const at = (node: RecordNode, key: string): string => textsOf(node).get(key) ?? "";
    const shown = (key: string): string => (children[0]?.attributes.has(key) === true ? `@${key}` : key);
    const seen = new Set<string>();
    for (const node of children) {
      const [of, code] = [at(node, kind), at(node, currency)];
      if (!isCurrency(code) || seen.has(`${of} ${code}`) || /[[\]"']/.test(of)) continue;
      seen.add(`${of} ${code}`);
      const chosen = children.filter((one) => at(one, kind) === of && at(one, currency) === code);
      const inner = new Walk(this.prefix, undefined);
      inner.down(
        chosen,
        `${path}[${shown(kind)}=${of}][${shown(currency)}=${code}]`,
        `${of} ${singular(lastStep(own))} ${code}`,
      );
      addAll(
        this.found,
        inner.found.filter(
          ({ path: full }) => !full.endsWith(`]/${shown(kind)}`) && !full.endsWith(`]/${shown(currency)}`),
        ),
      );
    }
  }

  private leaf(nodes: readonly RecordNode[], path: string, label: string): void {
    if (path === "") {
      this.add("text()", label);
      return;
    }
    const languages = new Set(nodes.map(({ attributes }) => attributes.get("lang")));
    for (const language of languages)
      if (language === undefined || !isLanguage(language)) this.add(path, label);
      else this.add(`${path}@${language}`, `${label} ${language}`);
  }

  private child(name: string, children: readonly RecordNode[], under: string, label: string): void {
    const path = `${under}${stepText(name)}`;
    const own = isLanguage(name) && label !== "" ? `${label} ${name}` : join(label, name);
    const isInner = children.every(
      ({ children: inner }) => inner.length === 2 && inner.every(({ name: n }) => /^[12]$/.test(n)),
    );
    if (isInner) {
      this.pairs.push({ name: `${this.prefix}${path}/1`, value: `${this.prefix}${path}/2` });
      return;
    }
    const isNamed = attributeWords.test(fold(name)) && children.every(isNamedValue);
    const both = repeats(children) ? twoDiscriminators(children) : undefined;
    if (both !== undefined) {
      this.byTwo(children, path, own, both);
      return;
    }
    const told = repeats(children) || isNamed ? discriminator(children) : undefined;
    if (told === undefined && namesByKeys(name, children)) {
      this.pairs.push({ name: `${this.prefix}${path}/*/name()`, value: `${this.prefix}${path}/*` });
      return;
    }
    if (told === undefined || (!repeats(children) && !nameKeys.test(told.key))) {
      this.down(children, path, own);
      return;
    }
    const others = new Set(
      children.flatMap((node) => [...textsOf(node).keys()]).filter((key) => key !== told.key),
    );
    const hasOwnText = children.some(({ text }) => text !== undefined && text !== "");
    const isPair =
      (hasOwnText ? others.size === 0 : others.size === 1) &&
      nameKeys.test(told.key) &&
      (attributeWords.test(fold(`${label} ${name}`)) || told.values.length > 2);
    const isAttribute = children[0]?.attributes.has(told.key) === true;
    const key = isAttribute ? `@${told.key}` : told.key;
    if (isPair) {
      const value = hasOwnText ? path : `${path}/${[...others][0] ?? ""}`;
      this.pairs.push({ name: `${this.prefix}${path}/${key}`, value: this.prefix + value });
      return;
    }
    // A value with signs of the notation in it cannot stand in a path.
    if (told.values.length > KINDS_LIMIT || told.values.some((value) => /[[\]"']/.test(value))) {
      this.down(children, path, own);
      return;
    }
    const isLanguageKey = told.values.every(isLanguage);
    for (const value of told.values) {
      const chosen = children.filter((node) => textsOf(node).get(told.key) === value);
      if (isLanguageKey && isAttribute && told.key === "lang" && hasOwnText) {
        this.add(`${path}@${value}`, `${own} ${value}`);
        continue;
      }
      const inner = new Walk(this.prefix, undefined);
      inner.down(
        chosen,
        `${path}[${key}=${value}]`,
        isLanguageKey ? own : kindLabel(told.key, value, own, chosen),
      );
      addAll(this.pairs, inner.pairs);
      for (const { path: full, label: words } of inner.found)
        if (!full.endsWith(`]/${key}`))
          this.found.push({ path: full, label: isLanguageKey ? `${words} ${value}` : words });
    }
  }
}

const placeKeys =
  /^(?:place|warehouse|store|depot|location|site|branch|lager|filiale|magasin|magazzino|almacen|magazijn)$/;

/** What is said of one kind of several: "retail price", "pieces in warehouse A". */
function kindLabel(key: string, value: string, own: string, nodes: readonly RecordNode[]): string {
  if (!placeKeys.test(fold(key))) return `${value} ${singular(own)}`;
  return `${namedElsewhere(value, nodes)} in ${key} ${value}`;
}

/** What a place is called that a list of places does not name though it names others. */
export const UNLISTED = "unlisted";

const LEGEND_DEPTH = 4;
const PLACE_CODE = 6;

/** A place by its name, which a list of places at the file's head may say beside its code; "pieces" where there is no list. */
function namedElsewhere(code: string, [first]: readonly RecordNode[]): string {
  let root = first;
  while (root?.parent !== undefined) root = root.parent;
  const names = new Map<string, string>();
  const look = (node: RecordNode, depth: number): void => {
    const texts = [...textsOf(node).values()];
    const [name, other] = texts.filter((text) => /\p{L}{3}/u.test(text));
    const short = texts.find((text) => text !== name && text.length <= PLACE_CODE);
    const isNamed = texts.length === 2 && name !== undefined && other === undefined && short !== undefined;
    if (isNamed && node.children.every(({ children }) => children.length === 0)) names.set(fold(short), name);
    if (depth > 0) for (const child of node.children.slice(0, KINDS_LIMIT * 4)) look(child, depth - 1);
  };
  if (root !== undefined) look(root, LEGEND_DEPTH);
  return names.get(fold(code)) ?? (names.size > 1 ? UNLISTED : "pieces");
}

const singular = (label: string): string => label.replace(/(\w{3,})s$/, "$1");

const lastStep = (label: string): string => label.split(" / ").at(-1) ?? label;

/** A label with one step more: a step that says little takes its parent's meaning. */
function join(label: string, name: string): string {
  const step = name.replace(/([a-z])([A-Z])/g, "$1 $2");
  if (label === "") return step;
  if (generic.test(fold(step))) return label;
  return `${label} / ${step}`;
}

/** The levels above records, nearest first, each with what leads to it and the child by which it was left. */
function levelsAbove(records: readonly RecordNode[]) {
  const found: { nodes: RecordNode[]; prefix: string; passed: string; isRoot: boolean }[] = [];
  let below = records;
  for (let up = 1; ; up++) {
    const above = [...new Set(below.flatMap(({ parent }) => parent ?? []))];
    const [first] = above;
    if (first === undefined) return found;
    const isRoot = first.parent === undefined;
    const prefix = isRoot ? (first.name === "" ? "/" : `/${stepText(first.name)}/`) : "../".repeat(up);
    found.push({ nodes: above, prefix, passed: below[0]?.name ?? "", isRoot });
    below = above;
  }
}

/** Names by which records are known. */
export const idName = /^@?(?:id|code|no|nr|number|num|ref|sku|key|handle|article|model|style)$/;
const titleName =
  /^@?(?:name|title|label|headline|heading|bezeichnung|titel|nom|nombre|naam|nazwa)(?:@[\w-]+)?$/;

/** What a level above says of its records: a product's own values for its variants, or a range's name for its goods. */
function levelColumns(
  level: ReturnType<typeof levelsAbove>[number],
  records: readonly RecordNode[],
  /** Whether a level below is the product already. */
  isAboveProduct: boolean,
): readonly FoundPath[] {
  const walk = new Walk(level.prefix, level.passed);
  walk.down(level.nodes, "", "");
  const inside = walk.found.filter(
    ({ path }) => !path.slice(level.prefix.length).startsWith(`${level.passed}/`),
  );
  if (level.isRoot)
    return inside.filter(({ label }) => {
      const { attribute, certainty } = columnName(label);
      return certainty >= 0.9 && ["brand", "manufacturer"].includes(attribute ?? "");
    });
  const meant = new Set(inside.map(({ label }) => columnName(label).attribute));
  const isProduct = !isAboveProduct && isProductLevel(level, inside, meant);
  const isRange =
    !isProduct ||
    /range|section|categor|department|group|family|rubri|gruppe/.test(fold(level.nodes[0]?.name ?? ""));
  const hasSeveral = level.nodes.length < records.length;
  // A currency for all below is the file's own, told once.
  const said = inside.filter(({ label }) => !currencyWord.test(fold(label.split(" / ").at(-1) ?? "")));
  return said.map((one) => {
    const name = own(one.path, level.prefix);
    if (isRange && titleName.test(name) && !isProduct)
      return { ...one, label: houseLike(level.nodes) ? "brand" : "category" };
    if (isProduct && hasSeveral && idName.test(name)) return { ...one, label: "group" };
    return one;
  });
}

/** Whether a level says what a product says: texts, pictures, a number beside a name. */
const isProductLevel = (
  { prefix }: ReturnType<typeof levelsAbove>[number],
  inside: readonly FoundPath[],
  meant: ReadonlySet<string | undefined>,
): boolean =>
  meant.has("description") ||
  meant.has("images") ||
  (inside.some(({ path }) => idName.test(own(path, prefix))) && meant.has("name"));

/** What all levels above say: above a product there are ranges of products. */
function aboveColumns(records: readonly RecordNode[]): readonly FoundPath[] {
  let isAboveProduct = false;
  return levelsAbove(records).flatMap((level) => {
    const found = levelColumns(level, records, isAboveProduct);
    const meant = new Set(found.map(({ label }) => columnName(label).attribute));
    isAboveProduct ||= !level.isRoot && meant.has("name") && isProductLevel(level, found, meant);
    return found;
  });
}

const houseLike = ([first]: readonly RecordNode[]): boolean =>
  /house|brand|maker|supplier|manufacturer|marke|hersteller|vendor/.test(fold(first?.name ?? ""));

const own = (path: string, prefix: string): string => path.slice(prefix.length);

const plainAmount = /^(?:amount|value|sum|betrag|montant|importe|bedrag|kwota)$/;

const currencyWord =
  /^(?:currency|cur|curr|ccy|waehrung|währung|devise|moneda|valuta|waluta|price ?currency|currency ?code)$/;

/** The one currency that a level above, or the file, states. */
function currencyAbove(records: readonly RecordNode[]): string | undefined {
  for (const { nodes } of levelsAbove(records)) {
    const codes = new Set<string>();
    const look = (node: RecordNode, depth: number): void => {
      for (const [key, text] of textsOf(node))
        if (currencyWord.test(fold(key)) && isCurrency(text)) codes.add(text);
      if (depth > 0) for (const child of node.children) if (child.text === undefined) look(child, depth - 1);
    };
    for (const node of nodes) look(node, 1);
    const [code] = codes;
    if (codes.size === 1) return code;
  }
  return undefined;
}

/** A table of more columns is no table: what stands in the first tells it. */
const COLUMNS_LOOKED_AT = 2000;

/** Records as a table that a proposal can look at. */
export function sampleOfTrees(trees: readonly RecordNode[], isOwnOnly = false): SampledTrees {
  const records = trees.slice(0, LOOKED_AT);
  const walk = new Walk("", undefined);
  walk.down(records, "", "");
  const names = new Set(records.map(({ name }) => name));
  // Records of an object that stand under their own numbers.
  const keyed: readonly FoundPath[] =
    names.size === records.length && records.length > 1 ? [{ path: "name()", label: "sku" }] : [];
  const above = isOwnOnly ? [] : aboveColumns(records);
  const byPath = new Map<string, FoundPath>();
  for (const one of [...keyed, ...walk.found, ...above])
    if (!byPath.has(one.path) && byPath.size < COLUMNS_LOOKED_AT) byPath.set(one.path, one);
  const found = [...byPath.values()];
  const paths = found.map(({ path }) => recordPath(path));
  const rows = records.map((record) =>
    paths.map((path) => {
      const values = path?.valuesIn(record).map((value) => value ?? "") ?? [];
      return values.some(Boolean) ? listText(values) : "";
    }),
  );
  return {
    header: found.map(({ path }) => path),
    labels: found.map(({ label }) => label),
    rows,
    pairs: walk.pairs,
    currency: currencyAbove(records),
  };
}
