/** Claims of schemas and samples of trees. */
import { trust } from "./trust.js";
import { localName } from "../records/local-name.js";
import { addAll } from "../many.js";
import { valuesText, type Claim, type Fact } from "./claim.js";
import { nameClaims, shownKind } from "./column-claims.js";
import { guideIndex } from "./guide-claims.js";
import { codeMaker } from "./field-code.js";
import type { LearnedField, LearningWishes } from "./learned.js";
import { meaningOf } from "./meaning.js";
import { ruleClaims } from "./said-claims.js";
import type { SchemaField, SchemaReading } from "./schemas/schema-reading.js";
import { settleFacts } from "./settle.js";
import type { SortedPapers } from "./sort-papers.js";
import { valueTables } from "./value-tables.js";
import { nameKey } from "./headings.js";

function claimsOf(field: SchemaField, { file, isSample }: SchemaReading): readonly Claim[] {
  const from = { file, sheet: "", at: field.line > 0 ? `line ${field.line}` : field.path };
  const because = isSample ? "the sample" : "the schema";
  const weight = isSample ? trust.sample : trust.schema;
  const claims: Claim[] = [];
  const claim = (fact: Fact, value: string, confidence = weight): void =>
    void claims.push({ fact, value, confidence, from, because });
  claim("label", field.label || field.name);
  if (field.help !== "") {
    claim("help", field.help, trust.helpText);
    if (field.help !== field.label)
      addAll(claims, ruleClaims(field.help, trust.schemaWords, from, "the schema's own words"));
  }
  if (isSample) claim("need", "optional", trust.sampleNeed);
  else claim("need", field.isRequired ? "required" : "optional");
  if (field.kind !== undefined) claim("kind", field.kind, field.kind === "text" ? trust.schemaText : weight);
  if (field.values.length > 0) claim("values", valuesText(field.values));
  if (field.many !== undefined) {
    claim("list", "yes");
    if (Number.isFinite(field.many)) claim("max_items", String(field.many));
  }
  for (const [fact, value] of Object.entries(field.limits) as [Fact, string][]) claim(fact, value);
  const [example] = field.examples;
  if (example !== undefined) {
    claim("example", example, trust.example);
    for (const one of shownKind(field.examples))
      claims.push({ ...one, from, because: "what the sample shows" });
  }
  if (field.default !== "") claim("default", field.default, trust.schemaDefault);
  // A schema says what is a number; what the number is of only the name tells.
  const named = nameClaims(field.label || field.name, from);
  addAll(
    claims,
    named.filter(({ fact, value }) => isSample || fact === "unit" || (fact === "kind" && value === "text")),
  );
  return claims;
}

const bare = /^(?:name|value|id|amount|text|url|code|title|content)$/i;

/** The fields of a schema or sample. */
export function schemaFields(
  schema: SchemaReading,
  sorted: SortedPapers,
  { corrections, attributes }: LearningWishes,
): readonly LearnedField[] {
  const codes = codeMaker();
  const guides = guideIndex(sorted.guides, new Map());
  const names = new Set(
    schema.fields.flatMap(({ name, label }) => [nameKey(name), nameKey(label)]).filter(Boolean),
  );
  const { tables } = valueTables(sorted.rest, names);
  return schema.fields.map((field) => {
    const code = codes(field.name === "" ? field.path : localName(field.name));
    const more = guides.claimsFor([field.name, field.label].filter(Boolean));
    const lists = [field.name, field.label].flatMap((name) => tables.get(nameKey(name)) ?? []);
    const facts = settleFacts([...claimsOf(field, schema), ...more, ...lists]);
    const steps = field.path.replaceAll("@", "").split("/");
    const within = steps.length > 1 ? steps.slice(-2).join(" ") : "";
    return {
      code,
      name: field.name,
      label: facts.get("label")?.value ?? field.name,
      facts: corrections.applied(code, "*", facts),
      byBranch: new Map(),
      branches: undefined,
      columns: [],
      path: field.path,
      isMembers: field.isMembers,
      meaning: meaningOf(
        // The name of the brand is a brand: such a step says little without the one above it.
        (bare.test(field.name) && within !== ""
          ? [within]
          : [field.label, localName(field.name), within]
        ).filter(Boolean),
        attributes,
      ),
    };
  });
}
