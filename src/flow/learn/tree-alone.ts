/** A definition with another tree and nothing else new. */
import { join } from "node:path";
import type { ChannelDefinition } from "../../core/channel/definition.js";
import type { ListedCategory } from "../../core/learning/category-list.js";
import { isThere, namesIn } from "../../formats/is-there.js";
import { smallFile } from "../../formats/small-file.js";
import { editedTable } from "../../workspace/edit-table.js";
import { carriedTable, withVersion } from "../../workspace/carried-files.js";
import type { LearnedFiles } from "../../workspace/learned-files.js";
import type { DefinitionFolder } from "../../workspace/definition-files.js";

/** The tables of a definition whose rows name categories. */
const SCOPED = ["fields.csv", "axes.csv", "goods.csv"];

/**
 * A definition of before with another tree: all it says stays, but for rows about categories that are gone. What the old
 * tree knew of a category that is still there, such as its search words, stays with it.
 */
export async function withOtherTree(
  { path, shown }: DefinitionFolder,
  before: ChannelDefinition,
  tree: readonly ListedCategory[],
  version: string,
): Promise<LearnedFiles & { readonly gone: number }> {
  const files = new Map<string, Buffer | string | undefined>();
  const own = (await namesIn(path, shown)).filter(
    (name) => /\.(?:csv|yaml)$/.test(name) && name !== "guesses.csv",
  );
  const inner: string[] = [];
  for (const folder of ["values", "templates", "published"])
    for (const name of await namesIn(join(path, folder), folder)) inner.push(`${folder}/${name}`);
  for (const name of [...own, ...inner]) files.set(name, await smallFile(join(path, name), name));
  const codes = new Set(tree.map(({ code }) => code));
  const gone = before.tree.all.filter(({ code }) => !codes.has(code));
  const columns = ["code", "parent", "name"];
  files.set(
    "categories.csv",
    editedTable(await smallFile(join(path, "categories.csv"), "categories.csv"), {
      columns,
      keys: ["code"],
      edits: tree.map(({ code, parent, name }) => ({ code, parent, name })),
      gone: gone.map(({ code }) => ({ code })),
    }),
  );
  const isGone = (scope: string): boolean =>
    scope !== "" && scope !== "*" && !codes.has(before.tree.named(scope)?.code ?? scope);
  for (const name of SCOPED) {
    const bytes = files.get(name);
    if (!Buffer.isBuffer(bytes)) continue;
    files.set(
      name,
      carriedTable(
        bytes,
        (cell) =>
          isGone(cell("scope"))
            ? { row: "open", reason: `no category ${cell("scope")} any more` }
            : { row: "same" },
        version,
      ).bytes,
    );
  }
  const yaml = files.get("definition.yaml");
  if (Buffer.isBuffer(yaml)) files.set("definition.yaml", withVersion(yaml.toString(), version));
  if (isThere(join(path, "retired.csv"), "retired.csv"))
    files.set(
      "retired.csv",
      retiredStill(await smallFile(join(path, "retired.csv"), "retired.csv"), codes, version),
    );
  return { files, kept: [], gone: gone.length };
}

/** Codes that are back, or whose successor is gone, are retired no more. */
const retiredStill = (bytes: Buffer, codes: ReadonlySet<string>, version: string): Buffer =>
  carriedTable(
    bytes,
    (cell) =>
      codes.has(cell("code")) || (cell("successor") !== "" && !codes.has(cell("successor")))
        ? { row: "open", reason: "the tree says otherwise" }
        : { row: "same" },
    version,
  ).bytes;
