import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative, resolve, sep } from "node:path";
import { describe, expect, it } from "vitest";
import ts from "typescript";

const root = resolve(import.meta.dirname, "../../src");

const filesUnder = (folder: string): readonly string[] =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && entry.name.endsWith(".ts"))
    .map((entry) => relative(folder, join(entry.parentPath, entry.name)));

type Graph = ReadonlyMap<string, ReadonlySet<string>>;

/** Every file of src/ with those that it imports, types included. */
const imports = (): Graph =>
  new Map(
    filesUnder(root).map((file) => {
      const { importedFiles } = ts.preProcessFile(readFileSync(join(root, file), "utf8"), true, true);
      const own = importedFiles
        .map(({ fileName }) => fileName)
        .filter((name) => name.startsWith("."))
        .map((name) => relative(root, resolve(root, dirname(file), name)).replace(/\.js$/, ".ts"));
      return [file, new Set(own)];
    }),
  );

/** One circle, as the way round; undefined where there is none. */
const circleIn = (graph: Graph): readonly string[] | undefined => {
  const done = new Set<string>();
  const walk = (node: string, way: readonly string[]): readonly string[] | undefined => {
    if (way.includes(node)) return [...way.slice(way.indexOf(node)), node];
    if (done.has(node)) return undefined;
    for (const next of graph.get(node) ?? []) {
      const circle = walk(next, [...way, node]);
      if (circle !== undefined) return circle;
    }
    done.add(node);
    return undefined;
  };
  for (const node of graph.keys()) {
    const circle = walk(node, []);
    if (circle !== undefined) return circle;
  }
  return undefined;
};

/** The folders that lie side by side in one folder, with what each takes from the others. */
const besides = (graph: Graph): ReadonlyMap<string, Graph> => {
  const levels = new Map<string, Map<string, Set<string>>>();
  for (const [file, targets] of graph)
    for (const target of targets) {
      const [from, to] = [dirname(file).split(sep), dirname(target).split(sep)];
      let level = 0;
      while (level < from.length && from[level] === to[level]) level++;
      const [own, other] = [from[level], to[level]];
      if (own === undefined || other === undefined) continue;
      const folder = from.slice(0, level).join("/");
      const here = levels.get(folder) ?? new Map<string, Set<string>>();
      levels.set(folder, here);
      here.set(own, (here.get(own) ?? new Set()).add(other));
    }
  return levels;
};

describe("imports in src/", () => {
  const graph = imports();

  it("when files are followed, then all are found and none comes back to itself", () => {
    expect(graph.size).toBeGreaterThan(400);
    for (const targets of graph.values()) for (const target of targets) expect(graph.has(target)).toBe(true);
    expect(circleIn(graph)).toBeUndefined();
  });

  it("when folders beside each other are followed, then none comes back to itself", () => {
    const circles = [...besides(graph)].map(([folder, beside]) => ({ folder, circle: circleIn(beside) }));
    expect(circles.filter(({ circle }) => circle !== undefined)).toEqual([]);
  });

  it("when a circle is planted, then it is seen", () => {
    const planted = new Map(graph).set("core/ids.ts", new Set(["main.ts"]));
    expect(circleIn(planted)).toContain("core/ids.ts");
  });
});

describe("core", () => {
  it("when its sentences are read, then none names a file of the workspace: those come in", () => {
    const named =
      /channel\.yaml|lexicant\.yaml|fills\.yaml|(?:placements|lexicon|rates)\.csv|(?:sources|tables)\/\S/;
    const found = filesUnder(join(root, "core")).flatMap((file) => {
      const source = ts.createSourceFile(
        file,
        readFileSync(join(root, "core", file), "utf8"),
        ts.ScriptTarget.Latest,
      );
      const texts: string[] = [];
      const look = (node: ts.Node): void => {
        if (
          ts.isStringLiteralLike(node) ||
          ts.isTemplateHead(node) ||
          ts.isTemplateMiddleOrTemplateTail(node)
        )
          texts.push(node.text);
        ts.forEachChild(node, look);
      };
      look(source);
      return texts.filter((text) => named.test(text)).map((text) => `${file}: ${text}`);
    });
    expect(found).toEqual([]);
  });
});
