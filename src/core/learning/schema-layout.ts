/** The layout that writes documents as a schema or sample has them. */
import { localName } from "../records/local-name.js";
import type { LearnedChannel, LearnedField } from "./learned.js";
import { partOf, type StyleDraft } from "./layout-style.js";
import type { SchemaReading } from "./schemas/schema-reading.js";

type Data = Readonly<Record<string, unknown>>;

const part = (field: LearnedField): Data => partOf(field);

const xmlLayout = (
  fields: readonly LearnedField[],
  schema: SchemaReading,
  channel: string,
  style: StyleDraft,
): Data => ({
  layout: "document",
  format: "xml",
  file: `${channel}.xml`,
  ...(schema.namespace === "" ? {} : { namespace: schema.namespace }),
  settings: {
    root: schema.root,
    ...(schema.member === "" ? { member: schema.row } : { group: schema.row, member: schema.member }),
    paths: Object.fromEntries(
      fields.filter(({ path, code }) => path !== code).map(({ code, path }) => [code, path]),
    ),
    ...style.settings,
  },
  columns: fields.map((field) => ({ name: field.code, field: field.code, ...part(field) })),
});

const jsonLayout = (
  fields: readonly LearnedField[],
  { format, root }: SchemaReading,
  channel: string,
  style: StyleDraft,
): Data => ({
  layout: "document",
  format: format === "jsonl" ? "jsonl" : "json",
  file: `${channel}.${format === "jsonl" ? "jsonl" : "json"}`,
  settings: {
    amounts: "numbers",
    ...(root === "" || root === "root" || format === "jsonl" ? {} : { root }),
    ...style.settings,
  },
  columns: fields.map((field) => ({
    name: field.path.replaceAll("/", "."),
    field: field.code,
    ...part(field),
  })),
});

const feedLayout = (
  learned: LearnedChannel,
  schema: SchemaReading,
  channel: string,
  style: StyleDraft,
  told: string[],
): Data => {
  const { fields, guesses } = learned;
  const own = guesses.get("identified_by")?.value ?? "";
  const at = (...paths: readonly string[]): string | undefined =>
    fields.find(({ path }) => paths.includes(path))?.code;
  const isRss = schema.format === "rss";
  const title = at("title") ?? own;
  const item = isRss
    ? { title, link: at("link") ?? own, description: at("description") ?? title, guid: at("guid") ?? own }
    : {
        title,
        link: at("link/@href", "link") ?? own,
        description: at("summary", "content") ?? title,
        guid: at("id") ?? own,
      };
  const standard = new Set(Object.values(item));
  const columns = fields.filter(({ path }) => path.startsWith(`${schema.prefix}:`) && !path.includes("/"));
  const lost = fields.filter(
    (field) => !columns.includes(field) && !standard.has(field.code) && !field.path.startsWith("link/"),
  );
  if (lost.length > 0)
    told.push(
      `the feed's own elements alone are written beside the standard ones; left out: ${lost
        .map(({ path }) => path)
        .slice(0, 6)
        .join(", ")}`,
    );
  return {
    layout: "feed",
    format: schema.format,
    file: `${channel}.xml`,
    prefix: schema.prefix === "" ? "x" : schema.prefix,
    namespace: schema.namespace === "" ? "urn:x" : schema.namespace,
    item,
    settings: style.settings,
    columns: columns.map((field) => ({ name: localName(field.path), field: field.code, ...part(field) })),
  };
};

/** schema.org's terms by the last step that is one: `brand/name` is the brand. */
const linkedLayout = (fields: readonly LearnedField[], channel: string, style: StyleDraft): Data => {
  const columns = fields
    .filter(({ path }) => !/(?:^|\/)@|priceSpecification/.test(path))
    .map(({ path, code, facts }) => {
      const steps = path.split("/");
      const last = steps.at(-1) ?? "";
      const term = last === "name" && steps.length > 1 ? (steps.at(-2) ?? last) : last;
      // Money is an offer's, wherever the sample has it.
      const isOffer = steps.some((step) => /^offers?$/.test(step)) || facts.get("kind")?.value === "money";
      return { name: term, field: code, isOffer };
    });
  const first = columns.filter((column, at) => columns.findIndex(({ name }) => name === column.name) === at);
  return {
    layout: "document",
    format: "jsonld",
    file: `${channel}.jsonld`,
    settings: { offer: first.filter(({ isOffer }) => isOffer).map(({ field }) => field), ...style.settings },
    columns: first.map(({ name, field }) => ({ name, field })),
  };
};

/** The layout that writes documents as a schema or sample has them. */
export const schemaLayout = (
  learned: LearnedChannel,
  schema: SchemaReading,
  channel: string,
  style: StyleDraft,
  told: string[],
): Data => {
  switch (schema.format) {
    case "xml":
      return xmlLayout(learned.fields, schema, channel, style);
    case "json":
    case "jsonl":
      return jsonLayout(learned.fields, schema, channel, style);
    case "jsonld":
      return linkedLayout(learned.fields, channel, style);
    case "rss":
    case "atom":
      return feedLayout(learned, schema, channel, style, told);
  }
};
