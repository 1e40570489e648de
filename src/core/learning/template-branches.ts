/** What several templates of one channel are for. */
import { codeOf, type CategoryList } from "./category-list.js";
import { nameKey } from "./headings.js";
import type { Branch } from "./learned.js";
import type { Template } from "./sort-papers.js";

/** What tells several templates of one channel apart: the name of the sheet, else of the file. */
export function branchesOf(
  templates: readonly Template[],
  lists: readonly CategoryList[],
): readonly Branch[] {
  if (templates.length < 2) return [];
  const sheets = templates.map(({ sheet }) => sheet.sheet);
  const files = templates.map(({ sheet }) => sheet.file.replace(/^.*[\\/]/, "").replace(/\.[^.]*$/, ""));
  const names =
    new Set(sheets).size === templates.length && !sheets.includes("") ? sheets : withoutCommon(files);
  return templates.map((template, at) => {
    const name = names[at] ?? `template ${at + 1}`;
    return {
      code: rootNamed(name, lists) ?? (codeOf([name]) || `branch-${at + 1}`),
      name: name.charAt(0).toUpperCase() + name.slice(1),
      template,
    };
  });
}

/** The code of the root that a template is for, where the channel's tree has one of its name. */
function rootNamed(name: string, lists: readonly CategoryList[]): string | undefined {
  const key = nameKey(name);
  const roots = lists.flatMap(({ categories }) => categories.filter(({ parent }) => parent === ""));
  const found =
    roots.find((root) => nameKey(root.name) === key || nameKey(root.code) === key) ??
    roots.find(
      (root) => key.length > 3 && (nameKey(root.name).includes(key) || key.includes(nameKey(root.name))),
    );
  return found?.code;
}

/** File names without the words that all of them have. */
function withoutCommon(names: readonly string[]): readonly string[] {
  const words = names.map((name) => name.split(/[\s_.-]+/));
  const common = new Set((words[0] ?? []).filter((word) => words.every((own) => own.includes(word))));
  return words.map((own, at) => own.filter((word) => !common.has(word)).join(" ") || (names[at] ?? ""));
}
