import { nameClaims, templateColumns, type TemplateColumn } from "./column-claims.js";
import { columnLetter } from "../diagnostics/place.js";
import { codeOf, type CategoryList, type ListedCategory } from "./category-list.js";
import { SURE, valuesOf, type Claim, type Fact, type Origin } from "./claim.js";
import { guideIndex } from "./guide-claims.js";
import { colourLegend, legendOf } from "./head-of-sheet.js";
import { nameKey } from "./headings.js";
import { joinColumns, type JoinedColumns } from "./join-columns.js";
import { conditionOf } from "./condition.js";
import { codeMaker } from "./field-code.js";
import {
  channelFacts,
  type Branch,
  type ChannelFact,
  type ChannelGuess,
  type LearnedChannel,
  type LearnedField,
  type LearningWishes,
} from "./learned.js";
import { schemaFields } from "./learned-schema.js";
import { meaningOf } from "./meaning.js";
import type { Paper } from "./paper.js";
import type { SchemaReading } from "./schemas/schema-reading.js";
import { settleFacts, type Settled } from "./settle.js";
import { sortPapers, type SortedPapers, type Template } from "./sort-papers.js";
import { startingFill } from "./starting-fill.js";
import { valueTables } from "./value-tables.js";

interface Draft extends JoinedColumns {
  readonly template: Template;
  readonly branch: string;
}

const scoped = new Set<Fact>([
  "need",
  "when",
  "min",
  "max",
  "min_length",
  "max_length",
  "counted",
  "max_items",
  "values",
  "pattern",
  "open",
]);

/** Makes a channel of its papers: sort, read columns, gather evidence, settle, then see the whole. */
export const learnChannel = (papers: readonly Paper[], wishes: LearningWishes): LearnedChannel => {
  const sorted = sortPapers(papers, wishes.sheet);
  const branches = branchesOf(sorted.templates);
  const drafts = sorted.templates.flatMap((template) => draftsOf(template, sorted, branches));
  const told: string[] = [...sorted.told];
  const explained = withExplanations(drafts, sorted, told);
  const [schema] = sorted.schemas;
  const fromTables = fieldsOfDrafts(explained, branches, wishes, told);
  const fields =
    fromTables.length > 0
      ? fromTables
      : schema === undefined
        ? fieldsOfGuides(sorted, wishes)
        : schemaFields(schema, sorted, wishes);
  const faults = faultsOf(sorted, fields);
  const guesses = guessesOf(fields, schema, sorted, wishes);
  const tree = treeOf(fields, guesses, sorted.categories, branches, told);
  settleCategory(fields, guesses, tree);
  settleConditions(fields);
  fillFields(fields, guesses, wishes);
  return {
    papers: sorted,
    fields,
    schema: fromTables.length > 0 ? undefined : schema,
    branches,
    ...tree,
    guesses,
    told,
    faults,
  };
};

const faultsOf = (sorted: SortedPapers, fields: readonly LearnedField[]): readonly string[] => {
  if (sorted.faults.length > 0) return sorted.faults;
  if (fields.length > 0 || sorted.categories.length > 0) return [];
  return [
    "no sheet, table or schema among the files names the columns of a listing: at least three headings side by side are wanted",
  ];
};

/** What tells several templates of one channel apart: the name of the sheet, else of the file. */
const branchesOf = (templates: readonly Template[]): readonly Branch[] => {
  if (templates.length < 2) return [];
  const sheets = templates.map(({ sheet }) => sheet.sheet);
  const files = templates.map(({ sheet }) => sheet.file.replace(/^.*[\\/]/, "").replace(/\.[^.]*$/, ""));
  const names =
    new Set(sheets).size === templates.length && !sheets.includes("") ? sheets : withoutCommon(files);
  return templates.map((template, at) => {
    const name = names[at] ?? `template ${at + 1}`;
    return {
      code: codeOf([name]) || `branch-${at + 1}`,
      name: name.charAt(0).toUpperCase() + name.slice(1),
      template,
    };
  });
};

/** File names without the words that all of them have. */
const withoutCommon = (names: readonly string[]): readonly string[] => {
  const words = names.map((name) => name.split(/[\s_.-]+/));
  const common = new Set((words[0] ?? []).filter((word) => words.every((own) => own.includes(word))));
  return words.map((own, at) => own.filter((word) => !common.has(word)).join(" ") || (names[at] ?? ""));
};

const draftsOf = (
  template: Template,
  sorted: SortedPapers,
  branches: readonly Branch[],
): readonly Draft[] => {
  const { sheet, head } = template;
  const around = [...sorted.rest, ...sorted.guides.map((guide) => guide.sheet), sheet].filter(
    (one) => one.file === sheet.file,
  );
  const context = { legend: legendOf(around), colours: colourLegend(around, sheet, head) };
  const columns = templateColumns(sheet, head, context);
  const branch = branches.find((one) => one.template === template)?.code ?? "";
  return joinColumns(withFilled(columns, sorted, template)).map((field) => ({ ...field, template, branch }));
};

/** Examples that stand on a sheet of their own count for the template's columns. */
const withFilled = (
  columns: readonly TemplateColumn[],
  sorted: SortedPapers,
  { sheet }: Template,
): readonly TemplateColumn[] => {
  const filled = sorted.filled.filter((one) => one.sheet.file === sheet.file);
  if (filled.length === 0) return columns;
  const known = filled.flatMap((one) =>
    templateColumns(one.sheet, one.head, { legend: new Map(), colours: new Map() }),
  );
  return columns.map((column) => {
    const same = known.find((one) => nameKey(one.code || one.label) === nameKey(column.code || column.label));
    if (same === undefined) return column;
    return {
      ...column,
      claims: [
        ...column.claims,
        ...same.claims.filter(
          ({ because }) => because === "the filled row" || because === "what the filled rows show",
        ),
      ],
    };
  });
};

const namesOf = ({ code, label, columns }: JoinedColumns): readonly string[] =>
  [
    ...new Set([
      code,
      label,
      ...columns.flatMap(({ column }) => [column.code, column.label, column.heading]),
    ]),
  ].filter(Boolean);

/** Adds what guides and lists of values say of each field, and what a missing mark means. */
const withExplanations = (
  drafts: readonly Draft[],
  sorted: SortedPapers,
  told: string[],
): readonly Draft[] => {
  const guides = guideIndex(sorted.guides, legendOf(sorted.rest));
  const names = new Set(drafts.flatMap(namesOf).map(nameKey));
  const { tables } = valueTables(sorted.rest, names);
  const explained = drafts.map((draft): Draft => {
    const own = namesOf(draft);
    const lists = own.flatMap((name) => tables.get(nameKey(name)) ?? []);
    const hasList = draft.claims.some(({ fact, confidence }) => fact === "values" && confidence >= SURE);
    return { ...draft, claims: [...draft.claims, ...guides.claimsFor(own), ...(hasList ? [] : lists)] };
  });
  const unasked = guides.unasked();
  if (unasked.length > 0 && drafts.length > 0)
    told.push(
      `explained, but no column has ${unasked.length === 1 ? "this name" : "these names"}: ${unasked.slice(0, 5).join(", ")}${unasked.length > 5 ? ", …" : ""}`,
    );
  return withUnmarked(explained);
};

/** Where only what must be filled bears a mark, what bears none may be left out. */
const withUnmarked = (drafts: readonly Draft[]): readonly Draft[] => {
  const byTemplate = new Map<Template, Draft[]>();
  for (const draft of drafts)
    byTemplate.set(draft.template, [...(byTemplate.get(draft.template) ?? []), draft]);
  const marked = (draft: Draft): boolean => draft.claims.some(({ fact }) => fact === "need");
  return drafts.map((draft) => {
    if (marked(draft)) return draft;
    const all = byTemplate.get(draft.template) ?? [];
    const count = all.filter(marked).length;
    const [first] = draft.columns;
    const from = {
      file: draft.template.sheet.file,
      sheet: draft.template.sheet.sheet,
      at: first === undefined ? "" : `${columnLetter(first.column.at)}${draft.template.head.named + 1}`,
    };
    const claim: Claim =
      count >= 2
        ? {
            fact: "need",
            value: "optional",
            confidence: 0.9,
            from,
            because: "others are marked, this one is not",
          }
        : {
            fact: "need",
            value: "optional",
            confidence: 0.35,
            from,
            because: "nothing says whether it must be filled",
          };
    return { ...draft, claims: [...draft.claims, claim] };
  });
};

const fieldsOfDrafts = (
  drafts: readonly Draft[],
  branches: readonly Branch[],
  wishes: LearningWishes,
  told: string[],
): readonly LearnedField[] => {
  const byKey = new Map<string, Draft[]>();
  for (const draft of drafts) byKey.set(draft.key, [...(byKey.get(draft.key) ?? []), draft]);
  const codes = codeMaker();
  return [...byKey.values()].flatMap((own): readonly LearnedField[] => {
    const [first] = own;
    if (first === undefined) return [];
    const facts = settleFacts(own.flatMap(({ claims }) => claims));
    const { byBranch, differing } = branchFacts(own, facts);
    for (const fact of differing)
      if (fact !== "values")
        told.push(
          `"${first.label}": ${fact.replaceAll("_", " ")} differs between ${own.map(({ branch }) => branch).join(" and ")}; each keeps its own`,
        );
    const code = codes(first.code || first.label);
    const inAll = branches.length === 0 || own.length === branches.length;
    return [
      {
        code,
        name: first.code || first.label,
        label: facts.get("label")?.value ?? first.label,
        facts: wishes.corrections.applied(code, "*", facts),
        byBranch: new Map(
          [...byBranch].map(([branch, some]) => [branch, wishes.corrections.applied(code, branch, some)]),
        ),
        branches: inAll ? undefined : own.map(({ branch }) => branch),
        columns: own.flatMap(({ columns, template }) => columns.map((column) => ({ ...column, template }))),
        path: "",
        isMembers: false,
        meaning: meaningOf([first.label, first.code, stripPrefix(first.code, drafts)], wishes.attributes),
      },
    ];
  });
};

/** What differs between the templates that have a field: each branch's own. */
const branchFacts = (own: readonly Draft[], facts: Map<Fact, Settled>) => {
  const byBranch = new Map<string, Map<Fact, Settled>>();
  const differing: Fact[] = [];
  if (own.length < 2) return { byBranch, differing };
  const each = own.map((draft) => ({ branch: draft.branch, facts: settleFacts(draft.claims) }));
  for (const fact of scoped) {
    const values = new Set(each.map((one) => one.facts.get(fact)?.value ?? ""));
    if (values.size < 2) continue;
    differing.push(fact);
    facts.delete(fact);
    for (const { branch, facts: some } of each) {
      const one = some.get(fact);
      if (one === undefined) continue;
      const known = byBranch.get(branch) ?? new Map<Fact, Settled>();
      byBranch.set(branch, known.set(fact, one));
    }
  }
  return { byBranch, differing };
};

/** A channel without a template, whose columns are only explained. */
const fieldsOfGuides = (sorted: SortedPapers, wishes: LearningWishes): readonly LearnedField[] => {
  const index = guideIndex(sorted.guides, legendOf(sorted.rest));
  const codes = codeMaker();
  return sorted.guides.flatMap(({ rows }) =>
    rows.map((row): LearnedField => {
      const [name, label] = [row.cell("code")?.text ?? "", row.cell("label")?.text ?? ""];
      const code = codes(name || label);
      const from = { file: row.sheet.file, sheet: row.sheet.sheet, at: `row ${row.row + 1}` };
      const facts = settleFacts([
        ...index.claimsFor([name, label].filter(Boolean)),
        ...nameClaims(label || name, from),
      ]);
      return {
        code,
        name: name || label,
        label: label || name,
        facts: wishes.corrections.applied(code, "*", facts),
        byBranch: new Map(),
        branches: undefined,
        columns: [],
        path: "",
        isMembers: false,
        meaning: meaningOf([label, name].filter(Boolean), wishes.attributes),
      };
    }),
  );
};

/** A code without the letters that all codes of the template begin with. */
const stripPrefix = (code: string, drafts: readonly Draft[]): string => {
  if (code === "") return "";
  const codes = drafts.map((draft) => draft.code).filter(Boolean);
  if (codes.length < 4) return code;
  let prefix = codes[0] ?? "";
  for (const one of codes) while (!one.startsWith(prefix)) prefix = prefix.slice(0, -1);
  return code.slice(prefix.length).replace(/^[._-]+/, "");
};

const originOf = ({ columns, facts }: LearnedField): Origin => {
  const label = facts.get("label")?.from;
  const [first] = columns;
  return label ?? { file: first?.template.sheet.file ?? "", sheet: "", at: "" };
};

const guessesOf = (
  fields: readonly LearnedField[],
  schema: SchemaReading | undefined,
  sorted: SortedPapers,
  { corrections }: LearningWishes,
): ReadonlyMap<ChannelFact, ChannelGuess> => {
  const found = new Map<ChannelFact, ChannelGuess>();
  const meant = (attribute: string): LearnedField | undefined =>
    fields
      .filter(({ meaning }) => meaning?.attribute === attribute)
      .sort((a, b) => (b.meaning?.confidence ?? 0) - (a.meaning?.confidence ?? 0))[0];
  const guess = (fact: ChannelFact, field: LearnedField | undefined, because: string, weight = 1): void => {
    if (field !== undefined)
      found.set(fact, {
        value: field.code,
        confidence: (field.meaning?.confidence ?? 0.3) * weight,
        because,
        from: originOf(field),
      });
  };
  const own =
    meant("sku") ??
    fields.find(
      ({ facts }) => facts.get("need")?.value === "required" && facts.get("kind")?.value !== "url",
    ) ??
    fields[0];
  guess(
    "identified_by",
    own,
    own?.meaning?.attribute === "sku"
      ? "its name asks for our number"
      : "the first field that must be filled; nothing says where our number goes",
  );
  guess("category_field", meant("category"), "its name asks for the category");
  const family = meant("group");
  guess("group_field", family, "its name asks for the group");
  if (family !== undefined) {
    const isParent = /parent|padre|parente|haupt|vater/iu.test(`${family.label} ${family.name}`);
    found.set("group_model", {
      value: isParent ? "leading-member" : "shared-id",
      confidence: isParent ? 0.55 : 0.7,
      because: isParent ? "members name the one above them" : "members share a reference",
      from: originOf(family),
    });
  } else if (schema !== undefined && schema.member !== "") {
    guess("group_field", own, "members stand within their group");
    found.set("group_model", {
      value: "nested",
      confidence: 0.8,
      because: "an element repeats within the listing",
      from: { file: schema.file, sheet: "", at: "" },
    });
  } else
    found.set("group_model", {
      value: "separate",
      confidence: 0.6,
      because: "no column ties members together",
      from: { file: sorted.templates[0]?.sheet.file ?? schema?.file ?? "", sheet: "", at: "" },
    });
  const comma = decimalComma(fields);
  if (comma !== undefined)
    found.set("decimal_mark", {
      value: ",",
      confidence: 0.85,
      because: "an example writes numbers with a comma",
      from: comma,
    });
  for (const fact of channelFacts) {
    const value = corrections.ofChannel().get(fact);
    if (value !== undefined)
      found.set(fact, { value, confidence: 1, because: "corrected", from: { file: "", sheet: "", at: "" } });
  }
  return found;
};

/** Where an example of a number has a comma in it. */
const decimalComma = (fields: readonly LearnedField[]): Origin | undefined => {
  for (const { facts } of fields) {
    const example = facts.get("example");
    const kind = facts.get("kind")?.value ?? "";
    if (
      example !== undefined &&
      /^\d+,\d{1,3}$/.test(example.value) &&
      ["money", "decimal", "measure"].includes(kind)
    )
      return example.from;
  }
  return undefined;
};

const treeOf = (
  fields: readonly LearnedField[],
  guesses: ReadonlyMap<ChannelFact, ChannelGuess>,
  lists: readonly CategoryList[],
  branches: readonly Branch[],
  told: string[],
): Pick<LearnedChannel, "categories" | "categoriesBy"> => {
  for (const { file, broken } of lists)
    if (broken.length > 0)
      told.push(
        `${file}: ${broken.length} ${broken.length === 1 ? "row" : "rows"} of the tree left out: ${broken
          .slice(0, 3)
          .map(({ row, reason }) => `row ${row}, ${reason}`)
          .join("; ")}${broken.length > 3 ? "; …" : ""}`,
      );
  const field = fields.find(({ code }) => code === guesses.get("category_field")?.value);
  const roots = branches.map(({ code, name }, at): ListedCategory => ({
    code,
    parent: "",
    name,
    row: at + 1,
  }));
  const listed = lists.flatMap(({ categories }) => categories);
  const values = valuesOf(field?.facts.get("values")?.value ?? "");
  if (listed.length > 0) {
    const codes = new Set(listed.map(({ code }) => code));
    const hasOwnCodes = listed.some(
      ({ code, name }) => code !== codeOf([name]) && !code.includes(codeOf([name])),
    );
    const known = [...values, field?.facts.get("example")?.value ?? ""].filter(Boolean);
    const byCode = known.length > 0 ? known.some((value) => codes.has(value)) : hasOwnCodes;
    return {
      categories: [
        ...listed,
        ...roots.filter(
          ({ code }) => !codes.has(code) && !listed.some(({ name }) => nameKey(name) === nameKey(code)),
        ),
      ],
      categoriesBy: byCode ? "code" : "path",
    };
  }
  if (values.length > 0 && branches.length === 0)
    return {
      categories: values.map((value, at) => ({ code: value, parent: "", name: value, row: at + 1 })),
      categoriesBy: "code",
    };
  if (roots.length > 0) {
    const own = branches.flatMap(({ code: branch }) =>
      valuesOf(field?.byBranch.get(branch)?.get("values")?.value ?? "").map((value, at): ListedCategory => ({
        code: value,
        parent: branch,
        name: value,
        row: at + 1,
      })),
    );
    return { categories: [...roots, ...own], categoriesBy: own.length > 0 ? "code" : "path" };
  }
  return { categories: [{ code: "all", parent: "", name: "All goods", row: 1 }], categoriesBy: "path" };
};

/** Conditions in words become expressions, where they name one field and ask something of it that is understood. */
const settleConditions = (fields: readonly LearnedField[]): void => {
  for (const { facts } of fields) {
    const when = facts.get("when");
    if (when === undefined || when.isCorrected) continue;
    const expression = conditionOf(when.value, fields);
    if (expression !== undefined)
      facts.set("when", { ...when, value: expression, confidence: 0.75, because: `"${when.value}"` });
    const need = facts.get("need");
    if (expression !== undefined && need !== undefined)
      facts.set("need", { ...need, confidence: Math.max(need.confidence, 0.75) });
  }
};

/** The column for the category holds what the placement gives: a choice where its list is the tree's own codes, else a text. */
const settleCategory = (
  fields: readonly LearnedField[],
  guesses: ReadonlyMap<ChannelFact, ChannelGuess>,
  { categories, categoriesBy }: Pick<LearnedChannel, "categories" | "categoriesBy">,
): void => {
  const category = guesses.get("category_field");
  const field = fields.find(({ code }) => code === category?.value);
  if (field === undefined || category === undefined || field.facts.get("kind")?.isCorrected === true) return;
  const codes = new Set(categories.map(({ code }) => code));
  const values = valuesOf(field.facts.get("values")?.value ?? "");
  if (categoriesBy === "code" && values.length > 0 && values.every((value) => codes.has(value))) return;
  field.facts.set("kind", {
    fact: "kind",
    value: "text",
    confidence: category.confidence,
    from: category.from,
    because: "it holds the category",
    against: [],
    isCorrected: false,
  });
};

const fillFields = (
  fields: readonly LearnedField[],
  guesses: ReadonlyMap<ChannelFact, ChannelGuess>,
  { corrections }: LearningWishes,
): void => {
  const isSeparate = guesses.get("group_model")?.value === "separate";
  const hasMainPicture = fields.some(
    ({ meaning, facts }) => meaning?.attribute === "images" && facts.get("list")?.value !== "yes",
  );
  const named = new Map<string, number>();
  for (const field of fields) {
    const { facts, meaning, code } = field;
    if (code === guesses.get("category_field")?.value || facts.get("fill")?.isCorrected === true) continue;
    const fill =
      code === guesses.get("identified_by")?.value
        ? { fill: "sku", confidence: guesses.get("identified_by")?.confidence ?? 0.5, because: "our number" }
        : startingFill(meaning, facts, {
            titlesTellApart: isSeparate,
            hasMainPicture,
            names: [field.label, field.name],
          });
    if (fill === undefined) continue;
    // Two fields that one attribute would fill: the second is a question.
    const before = named.get(fill.fill) ?? 0;
    named.set(fill.fill, before + 1);
    facts.set("fill", {
      fact: "fill",
      value: fill.fill,
      confidence: before > 0 ? Math.min(0.55, fill.confidence) : fill.confidence,
      from: originOf(field),
      because: fill.because,
      against: [],
      isCorrected: false,
    });
  }
  for (const field of fields)
    for (const [fact, settled] of corrections.applied(field.code, "*", field.facts))
      field.facts.set(fact, settled);
};
