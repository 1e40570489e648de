/** Fields of templates, put together from columns, guides and lists. */
import { trust } from "./trust.js";
import { columnLetter } from "../diagnostics/place.js";
import { ruleFacts, SURE, type Claim, type Fact } from "./claim.js";
import { nameClaims, templateColumns, type TemplateColumn } from "./column-claims.js";
import { codeMaker } from "./field-code.js";
import { guideIndex } from "./guide-claims.js";
import { colourLegend } from "./colour-legend.js";
import { legendOf } from "./head-of-sheet.js";
import { nameKey } from "./headings.js";
import { joinColumns, type JoinedColumns } from "./join-columns.js";
import type { Branch, LearnedField, LearningWishes } from "./learned.js";
import { meaningOf } from "./meaning.js";
import { settleFacts, type Settled } from "./settle.js";
import type { SortedPapers, Template } from "./sort-papers.js";
import { valueTables } from "./value-tables.js";

interface FieldDraft extends JoinedColumns {
  readonly template: Template;
  readonly branch: string;
}

const scoped: readonly Fact[] = ruleFacts;

/** The fields of a template's columns, before guides speak. */
export function draftsOf(
  template: Template,
  sorted: SortedPapers,
  branches: readonly Branch[],
): readonly FieldDraft[] {
  const { sheet, head } = template;
  const around = [...sorted.rest, ...sorted.guides.map((guide) => guide.sheet), sheet].filter(
    (one) => one.file === sheet.file,
  );
  const context = { legend: legendOf(around), colours: colourLegend(around, sheet, head) };
  const columns = templateColumns(sheet, head, context);
  const branch = branches.find((one) => one.template === template)?.code ?? "";
  return joinColumns(withFilled(columns, sorted, template)).map((field) => ({ ...field, template, branch }));
}

/** Examples that stand on a sheet of their own count for the template's columns. */
function withFilled(
  columns: readonly TemplateColumn[],
  sorted: SortedPapers,
  { sheet }: Template,
): readonly TemplateColumn[] {
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
}

const namesOf = ({ code, label, columns }: JoinedColumns): readonly string[] =>
  [
    ...new Set([
      code,
      label,
      ...columns.flatMap(({ column }) => [column.code, column.label, column.heading]),
    ]),
  ].filter(Boolean);

/** Adds what guides and lists of values say of each field, and what a missing mark means. */
export function withExplanations(
  drafts: readonly FieldDraft[],
  sorted: SortedPapers,
  told: string[],
): readonly FieldDraft[] {
  const guides = guideIndex(sorted.guides, legendOf(sorted.rest));
  const names = new Set(drafts.flatMap(namesOf).map(nameKey));
  const { tables } = valueTables(sorted.rest, names);
  const explained = drafts.map((draft): FieldDraft => {
    const own = namesOf(draft);
    const lists = own.flatMap((name) => tables.get(nameKey(name)) ?? []);
    const hasList = draft.claims.some(({ fact, confidence }) => fact === "values" && confidence >= SURE);
    const said = guides.claimsFor(own);
    // What a guide calls a column says as much of its kind and unit as its own heading would.
    const named = said.flatMap(({ fact, value, from }) =>
      fact === "label" && nameKey(value) !== nameKey(draft.label) ? nameClaims(value, from) : [],
    );
    return { ...draft, claims: [...draft.claims, ...said, ...named, ...(hasList ? [] : lists)] };
  });
  const unasked = guides.unasked();
  if (unasked.length > 0 && drafts.length > 0)
    told.push(
      `explained, but no column has ${unasked.length === 1 ? "this name" : "these names"}: ${unasked.slice(0, 5).join(", ")}${unasked.length > 5 ? ", …" : ""}`,
    );
  return withUnmarked(explained);
}

/** Where only what must be filled bears a mark, what bears none may be left out. */
function withUnmarked(drafts: readonly FieldDraft[]): readonly FieldDraft[] {
  const byTemplate = new Map<Template, FieldDraft[]>();
  for (const draft of drafts)
    byTemplate.set(draft.template, [...(byTemplate.get(draft.template) ?? []), draft]);
  const marked = (draft: FieldDraft): boolean => draft.claims.some(({ fact }) => fact === "need");
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
            confidence: trust.unmarked,
            from,
            because: "others are marked, this one is not",
          }
        : {
            fact: "need",
            value: "optional",
            confidence: trust.nothingSaid,
            from,
            because: "nothing says whether it must be filled",
          };
    return { ...draft, claims: [...draft.claims, claim] };
  });
}

/** The same field of several templates as one, with scopes. */
export function fieldsOfDrafts(
  drafts: readonly FieldDraft[],
  branches: readonly Branch[],
  wishes: LearningWishes,
  told: string[],
): readonly LearnedField[] {
  const byKey = new Map<string, FieldDraft[]>();
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
        meaning: meaningOf(
          [facts.get("label")?.value ?? "", first.label, first.code, stripPrefix(first.code, drafts)].filter(
            Boolean,
          ),
          wishes.attributes,
        ),
      },
    ];
  });
}

/** What differs between the templates that have a field: each branch's own. */
function branchFacts(own: readonly FieldDraft[], facts: Map<Fact, Settled>) {
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
}

/** A channel without a template, whose columns are only explained. */
export function fieldsOfGuides(sorted: SortedPapers, wishes: LearningWishes): readonly LearnedField[] {
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
}

/** A code without the letters that all codes of the template begin with. */
function stripPrefix(code: string, drafts: readonly FieldDraft[]): string {
  if (code === "") return "";
  const codes = drafts.map((draft) => draft.code).filter(Boolean);
  if (codes.length < 4) return code;
  let prefix = codes[0] ?? "";
  for (const one of codes) while (!one.startsWith(prefix)) prefix = prefix.slice(0, -1);
  return code.slice(prefix.length).replace(/^[._-]+/, "");
}
