import { categoryRules, type CategoryField } from "../../../core/channel/category-rules.js";
import { withAncestors, type Category } from "../../../core/channel/category-tree.js";
import type { ChannelDefinition } from "../../../core/channel/definition.js";
import type { XlsxLayout } from "../../../core/channel/layout-definition.js";
import type { ChannelSetup } from "../../../core/listing/channel-setup.js";
import { rowsOf } from "../../../core/listing/file-family.js";
import { fold } from "../../../core/values/text.js";
import type { FileFacts } from "../../../layouts/layout.js";
import { xlsxBook, type Book } from "../../../layouts/xlsx.js";
import { limitWords } from "../../../report/limit-words.js";
import type { StagedFiles } from "../../../workspace/staged-files.js";
import { partName, type BuiltFile, type LayoutFiles } from "./layout-files.js";

/** All that any category of a branch asks of each field; the first that asks for it in full speaks for it. */
const branchRules = (definition: ChannelDefinition, branch: Category): ReadonlyMap<string, CategoryField> => {
  const rules = new Map<string, CategoryField>();
  for (const category of definition.tree.all) {
    if (!withAncestors(category).includes(branch)) continue;
    for (const rule of categoryRules(definition, category).fields) {
      const known = rules.get(rule.field.code);
      if (known === undefined || (known.limits.values === undefined && rule.limits.values !== undefined))
        rules.set(rule.field.code, rule);
    }
  }
  return rules;
};

const describe = (rule: CategoryField): string => {
  const { field, need } = rule;
  return [
    `${field.code}: ${need}`,
    limitWords(rule).join(", "),
    ...(field.example === "" ? [] : [`Such as: ${field.example}`]),
    ...(field.help === "" ? [] : [field.help]),
  ].join("\n");
};

/** `Garden & Outdoor Living` as a part of a file name. */
const slug = (name: string): string => fold(name).replaceAll(" ", "-");

const namedFor = (file: string, branch: Category | undefined): string =>
  branch === undefined ? file : file.replace(/(\.[^.]*)?$/, `-${slug(branch.name)}$1`);

interface OpenBook {
  readonly branch: Category | undefined;
  readonly books: Book[];
}

/** Workbooks: one for each branch of the channel's tree where the layout says so, each split where it grows too long. */
export const workbookFiles = (
  layout: XlsxLayout,
  { definition }: ChannelSetup,
  facts: FileFacts,
  staged: StagedFiles,
): LayoutFiles => {
  const mostRows = definition.fileLimits.rows ?? Infinity;
  const open = new Map<string, OpenBook>();
  const bookFor = (branch: Category | undefined): Book => {
    const rules = branch === undefined ? undefined : branchRules(definition, branch);
    const isThere = (cell: XlsxLayout["cells"][number]): boolean =>
      rules === undefined || !("field" in cell) || rules.has(cell.field.code);
    return xlsxBook({ ...layout, cells: layout.cells.filter(isThere) }, facts, {
      ruleOf: ({ field }) => rules?.get(field.code),
      describe,
    });
  };
  return {
    write(family) {
      const [first] = rowsOf(family);
      const branch = layout.byBranch
        ? first?.category === undefined
          ? undefined
          : withAncestors(first.category).at(-1)
        : undefined;
      const key = branch?.code ?? "";
      const own = open.get(key) ?? { branch, books: [bookFor(branch)] };
      open.set(key, own);
      let book = own.books.at(-1);
      if (book === undefined || (book.rows > 0 && book.rows + rowsOf(family).length > mostRows)) {
        book = bookFor(branch);
        own.books.push(book);
      }
      book.add(family);
      return Promise.resolve();
    },
    async finish() {
      const built: BuiltFile[] = [];
      const sorted = [...open.values()].sort((a, b) =>
        (a.branch?.path ?? "") < (b.branch?.path ?? "") ? -1 : 1,
      );
      for (const { branch, books } of sorted)
        for (const [index, book] of books.entries()) {
          const file = await staged.create(partName(namedFor(layout.file, branch), index + 1));
          await file.writeBytes(await book.bytes());
          built.push(await file.finish());
        }
      return built;
    },
  };
};
