/** The glossary as files: the shipped one, with the words of a shop and of a definition. */
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { Refusal } from "../core/diagnostics/refusal.js";
import { goodRow } from "../core/goods/good-row.js";
import { openGlossary, type Glossary } from "../core/goods/glossary.js";
import { growGlossary } from "../core/goods/grow-glossary.js";
import type { GlossaryData } from "../core/goods/glossary-data.js";
import type { GoodRow } from "../core/goods/good.js";
import { kindsOfThings } from "../core/goods/kinds-of-things.js";
import { addAll } from "../core/many.js";
import { isThere } from "../formats/is-there.js";
import { readOnce } from "./read-once.js";
import { readTable } from "./table-file.js";

/** Made by the build from `goods/` and from WordNet. */
const shipped = fileURLToPath(new URL("../../dist/goods/", import.meta.url));

/** A table of goods that a shop or a definition brings. */
export interface GoodsTable {
  readonly path: string;
  readonly shown: string;
}

/** Rows of a table of a user's own; a row without a name says nothing. */
async function ownRows({ path, shown }: GoodsTable): Promise<readonly GoodRow[]> {
  if (!isThere(path, shown)) return [];
  const rows = await readTable(path, shown, ["name"]);
  return rows
    .map((row) => goodRow((column) => row.cell(column), row.cell("field") || "own", row.place()))
    .filter(({ name }) => name !== "");
}

const glossaries = readOnce<Glossary>();

/**
 * What is known of goods: the shipped glossary and list of nouns, and the tables of a shop and a definition, whose words
 * add to them.
 * @throws Refusal when a table names a kind that nobody knows
 */
export function loadGlossary(tables: readonly GoodsTable[]): Promise<Glossary> {
  return glossaries(
    [shipped, ...tables.map(({ path }) => path)],
    tables.map(({ shown }) => shown),
    () => readGlossary(tables),
  );
}

async function readGlossary(tables: readonly GoodsTable[]): Promise<Glossary> {
  const [text, nouns] = await Promise.all([
    readFile(join(shipped, "glossary.json"), "utf8"),
    readFile(join(shipped, "wordnet.txt"), "latin1"),
  ]);
  const data = JSON.parse(text) as GlossaryData;
  const rows: GoodRow[] = [];
  for (const table of tables) addAll(rows, await ownRows(table));
  if (rows.length === 0) return openGlossary(data, kindsOfThings(nouns));
  const { data: grown, findings } = growGlossary(data, rows);
  if (findings.length > 0) throw new Refusal(findings);
  return openGlossary(grown, kindsOfThings(nouns));
}
