/** Walks down the records of a tree, and finds what would be the columns of a table, with pairs of names and values. */
import { addAll } from "../../many.js";
import type { RecordNode } from "../../records/node.js";
import { stepText } from "../../records/path.js";
import { isCurrency } from "../../values/currencies.js";
import { fold } from "../../values/text.js";
import { attributeKind } from "../vocabulary.js";
import { columnName, isLanguage } from "./column-name.js";
import type { ProposedPair } from "./source-proposal.js";
import {
  type FoundPath,
  currencyWord,
  plainAmount,
  join,
  byName,
  textsOf,
  singular,
  lastStep,
  repeats,
  nameKeys,
} from "./tree-paths.js";
import { twoDiscriminators, discriminator, KINDS_LIMIT, kindLabel } from "./discriminators.js";

const attributeWords =
  /(?:attribut|spec|propert|feature|option|param|characteristic|fact|merkmal|eigenschaft|caract|kenmerk|cecha)/;

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

/** A walk down records, which gathers the paths that hold values, and pairs of names and values. */
export class Walk {
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
