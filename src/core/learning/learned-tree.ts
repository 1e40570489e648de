/** The tree of what was learned, with codes where the channel gives none. */
import { codeOf, type CategoryList, type ListedCategory } from "./category-list.js";
import { valuesOf } from "./claim.js";
import type { Branch, ChannelFact, ChannelGuess, LearnedChannel, LearnedField } from "./learned.js";

/** The tree of what was learned: the list that fits, or the branches of templates. */
export function treeOf(
  fields: readonly LearnedField[],
  guesses: ReadonlyMap<ChannelFact, ChannelGuess>,
  lists: readonly CategoryList[],
  branches: readonly Branch[],
  told: string[],
): Pick<LearnedChannel, "categories" | "categoriesBy"> {
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
      categories: [...listed, ...roots.filter(({ code }) => !codes.has(code))],
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
}
