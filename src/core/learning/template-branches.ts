import { codeOf } from "./category-list.js";
import { type Branch } from "./learned.js";
import { type Template } from "./sort-papers.js";

/** What tells several templates of one channel apart: the name of the sheet, else of the file. */
export const branchesOf = (templates: readonly Template[]): readonly Branch[] => {
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
