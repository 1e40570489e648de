import { readdirSync, readFileSync } from "node:fs";
import { join, relative, resolve } from "node:path";
import ts from "typescript";
import { describe, expect, it } from "vitest";

const root = resolve(import.meta.dirname, "../../src");

/** Shorter files are read at a glance. */
const LONG = 40;

/** Units that stand side by side and look alike: what one is for, its own entry says first. */
const alike =
  /^(?:commands\/[a-z]+|core\/language\/functions\/.*|core\/diagnostics\/findings\/.*|core\/listing\/check\/checks\/.*|main)\.ts$/;

const files = readdirSync(root, { withFileTypes: true, recursive: true })
  .filter((entry) => entry.isFile() && entry.name.endsWith(".ts"))
  .map((entry) => join(entry.parentPath, entry.name));

const read = (
  path: string,
): { readonly name: string; readonly text: string; readonly tree: ts.SourceFile } => {
  const text = readFileSync(path, "utf8");
  return {
    name: relative(root, path).replaceAll("\\", "/"),
    text,
    tree: ts.createSourceFile(path, text, ts.ScriptTarget.ES2022, true),
  };
};

/** What a file exports and does not say a word of; names made of a list that stands above them are told by it. */
const untold = (text: string, tree: ts.SourceFile): readonly string[] =>
  tree.statements.flatMap((statement) => {
    const isExported =
      ts.canHaveModifiers(statement) &&
      ts.getModifiers(statement)?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword) === true;
    const isTold = (ts.getLeadingCommentRanges(text, statement.getFullStart()) ?? []).length > 0;
    const isOfList = ts.isTypeAliasDeclaration(statement) && statement.type.getText().startsWith("(typeof ");
    return !isExported || isTold || isOfList ? [] : [statement.getText().split("\n")[0] ?? ""];
  });

describe("code that explains itself", () => {
  it("when a file is longer than a glance, then it says in its head what it is for", () => {
    const silent = files
      .map(read)
      .filter(({ name, text }) => text.split("\n").length > LONG + 1 && !alike.test(name))
      .filter(({ text }) => !/^\s*\/[/*]/.test(text));
    expect(silent.map(({ name }) => name)).toEqual([]);
  });

  it("when something is exported, then a word is said of it", () => {
    expect(
      files.map(read).flatMap(({ name, text, tree }) => untold(text, tree).map((one) => `${name}: ${one}`)),
    ).toEqual([]);
  });
});
