import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";

/** What schema.org says of its types, read from the declarations of a package that others keep. */
interface TypeFacts {
  readonly above: readonly string[];
  /** The types that a property of its own may hold. */
  readonly properties: ReadonlyMap<string, readonly string[]>;
}

const declarations = (): string => {
  const entry = createRequire(import.meta.url).resolve("schema-dts");
  return readFileSync(join(entry, "..", "schema.d.ts"), "utf8");
};

const text = declarations();
const types = new Map<string, TypeFacts>(
  [...text.matchAll(/^interface (\w+)Base extends ([^{]+) \{\n([\s\S]*?)^\}/gm)].map(
    ([, name = "", above = "", body = ""]) => [
      name,
      {
        above: above.split(", ").map((one) => one.replace(/Base$/, "")),
        properties: new Map(
          [...body.matchAll(/^ {4}"(\w+)"\?: SchemaValue<([^,]+), /gm)].map(
            ([, property = "", allowed = ""]) => [property, allowed.split(" | ")],
          ),
        ),
      },
    ],
  ),
);

const lineage = (type: string): readonly string[] => [
  type,
  ...(types.get(type)?.above ?? []).flatMap(lineage),
];

/** What a JSON-LD node, and all within it, says that schema.org does not know of its types. */
export const notInSchemaOrg = (node: unknown): readonly string[] => {
  if (Array.isArray(node)) return node.flatMap(notInSchemaOrg);
  if (typeof node === "string")
    return node.startsWith("https://schema.org/") && !text.includes(`"${node}"`) && !isProperty(node)
      ? [`${node} is no term`]
      : [];
  if (typeof node !== "object" || node === null) return [];
  const { "@type": own, ...said } = node as Readonly<Record<string, unknown>>;
  const named = [own].flat().map(String);
  const all = named.flatMap(lineage);
  return Object.entries(said).flatMap(([property, value]) => {
    const allowed = all.flatMap((type) => types.get(type)?.properties.get(property) ?? []);
    if (allowed.length === 0) return [`${named.join("+")} has no ${property}`];
    const wrong = [value].flat().flatMap((one) => {
      const type =
        typeof one === "object" && one !== null ? (one as { "@type": unknown })["@type"] : undefined;
      if (type === undefined) return [];
      return [type].flat().some((each) => lineage(String(each)).some((above) => allowed.includes(above)))
        ? []
        : [`${property} holds no ${String(type)}`];
    });
    return [...wrong, ...notInSchemaOrg(value)];
  });
};

/** Groups name what they vary by through a property's address. */
const isProperty = (address: string): boolean => {
  const name = address.replace("https://schema.org/", "");
  return [...types.values()].some(({ properties }) => properties.has(name));
};
