/** XML by element paths, members within their group. */
import { ownOf } from "../core/own.js";
import { addAll } from "../core/many.js";
import type { LayoutColumn, XmlLayout } from "../core/channel/layout-definition.js";
import type { FileRow } from "../core/listing/shape/file-family.js";
import { xmlText } from "../formats/xml-text.js";
import { cellTexts } from "./cell-text.js";
import { unparted, type FileFacts, type LayoutWriter } from "./layout.js";

/** One column's place in a row's element: `parcel/weight` nests, `price/@currency` is an attribute. */
interface Path {
  readonly column: LayoutColumn;
  readonly steps: readonly string[];
  readonly attribute: string | undefined;
}

interface XmlElement {
  readonly name: string;
  readonly attributes: Map<string, string>;
  readonly children: XmlElement[];
  text: string;
}

const element = (name: string): XmlElement => ({ name, attributes: new Map(), children: [], text: "" });

function pathOf(column: LayoutColumn, path: string): Path {
  const parts = path.split("/");
  const last = parts.at(-1) ?? "";
  return last.startsWith("@")
    ? { column, steps: parts.slice(0, -1), attribute: last.slice(1) }
    : { column, steps: parts, attribute: undefined };
}

/** Columns that share the beginning of their paths share the elements there. */
const at = (root: XmlElement, steps: readonly string[]): XmlElement =>
  steps.reduce((parent, name) => {
    const known = parent.children.find((child) => child.name === name);
    if (known !== undefined) return known;
    const added = element(name);
    parent.children.push(added);
    return added;
  }, root);

function written({ name, attributes, children, text }: XmlElement, indent: string): string {
  const tag = name + [...attributes].map(([key, value]) => ` ${key}="${xmlText(value)}"`).join("");
  if (children.length > 0)
    return `${indent}<${tag}>\n${children.map((child) => written(child, `${indent}  `)).join("")}${indent}</${name}>\n`;
  return text === "" ? `${indent}<${tag}/>\n` : `${indent}<${tag}>${xmlText(text)}</${name}>\n`;
}

/** XML by element paths; members stand inside the element of their group. */
export function xmlWriter(layout: XmlLayout, { action }: FileFacts): LayoutWriter {
  const { root, namespace, group, member, lists, style, actionAttribute } = layout;
  const paths = layout.columns.map((column) =>
    pathOf(column, ownOf(layout.paths, column.name) ?? column.name),
  );
  const fill = (row: FileRow, into: XmlElement): XmlElement => {
    if (actionAttribute !== "" && action !== "") into.attributes.set(actionAttribute, action);
    for (const { column, steps, attribute } of paths) {
      const texts = cellTexts(row.value(column.field), column, style);
      const [first] = texts;
      if (first === undefined) continue;
      const item = ownOf(lists, column.name);
      if (attribute !== undefined) at(into, steps).attributes.set(attribute, first);
      else if (item !== undefined)
        addAll(
          at(into, steps).children,
          texts.map((text) => ({ ...element(item), text })),
        );
      else if (texts.length === 1) at(into, steps).text = first;
      // Without a name for each value the element itself is repeated.
      else {
        const parent = at(into, steps.slice(0, -1));
        addAll(
          parent.children,
          texts.map((text) => ({ ...element(steps.at(-1) ?? "value"), text })),
        );
      }
    }
    return into;
  };
  const xmlns = namespace === "" ? "" : ` xmlns="${xmlText(namespace)}"`;
  return {
    head: () => `<?xml version="1.0" encoding="UTF-8"?>\n<${root}${xmlns}>\n`,
    family({ group: own, members }) {
      const elements = members.map((row) => fill(row, element(member)));
      if (own === undefined) return elements.map((one) => written(one, "  ")).join("");
      const whole = fill(own, element(group));
      addAll(whole.children, elements);
      return written(whole, "  ");
    },
    apart: unparted,
    tail: () => `</${root}>\n`,
  };
}
