/** The layout that writes documents as a schema or sample has them. */
import { localName } from "../records/local-name.js";
import type { LearnedChannel, LearnedField } from "./learned.js";
import { partOf, type StyleDraft, type YamlData } from "./layout-style.js";
import type { SchemaReading } from "./schemas/schema-reading.js";

const part = (field: LearnedField): YamlData => partOf(field);

/** What a layout is made of. */
export interface SchemaLayoutParts {
  readonly learned: LearnedChannel;
  readonly schema: SchemaReading;
  /** The channel's name, which its files bear. */
  readonly channel: string;
  readonly style: StyleDraft;
  /** Takes what a person should know. */
  readonly told: string[];
}

const xmlLayout = ({ learned: { fields }, schema, channel, style }: SchemaLayoutParts): YamlData => ({
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
    // As XML Schema's own truth values are written, where nothing shows others.
    yes: "true",
    no: "false",
    ...style.settings,
  },
  columns: fields.map((field) => ({ name: field.code, field: field.code, ...part(field) })),
});

/** An object a line has nothing around it. */
const jsonLayout =
  (format: "json" | "jsonl") =>
  ({ learned: { fields }, schema: { root }, channel, style }: SchemaLayoutParts): YamlData => ({
    layout: "document",
    format,
    file: `${channel}.${format}`,
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

function feedLayout({ learned, schema, channel, style, told }: SchemaLayoutParts): YamlData {
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
}

/** schema.org's terms by the last step that is one: `brand/name` is the brand. */
function linkedLayout({ learned: { fields }, channel, style }: SchemaLayoutParts): YamlData {
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
}

/** What each format of schemas and samples is written by. */
const makers: {
  readonly [Format in SchemaReading["format"]]: (wanted: SchemaLayoutParts) => YamlData;
} = {
  xml: xmlLayout,
  json: jsonLayout("json"),
  jsonl: jsonLayout("jsonl"),
  jsonld: linkedLayout,
  rss: feedLayout,
  atom: feedLayout,
};

/** The layout that writes documents as a schema or sample has them. */
export const schemaLayout = (parts: SchemaLayoutParts): YamlData => makers[parts.schema.format](parts);
