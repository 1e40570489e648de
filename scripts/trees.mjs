// Makes the big definitions' trees from the lists in scripts/trees: codes follow from the order, so new names go to the end.
import { readFileSync, writeFileSync } from "node:fs";
import { outputPath } from "./setup.mjs";

const consonants = "BCDFGHKLMNPRSTVWXZ";

/** The n-th code of so many letters: BB, BC, … */
const letters = (number, length) => {
  let [code, rest] = ["", number];
  for (let i = 0; i < length; i++) {
    code = consonants[rest % consonants.length] + code;
    rest = Math.floor(rest / consonants.length);
  }
  return code;
};

const quoted = (text) => (/[",]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
const list = (text) => text.split(/,\s*/).map((name) => name.trim());

const merrowgate = () => {
  const rows = [];
  const leaves = new Map();
  let [department, group] = [undefined, undefined];
  let [departments, groups] = [0, 0];
  const add = (code, parent, name, closed) => rows.push({ code, parent, name, closed });
  for (const line of readFileSync(new URL("trees/merrowgate.txt", import.meta.url), "utf8").split("\n")) {
    if (line.trim() === "" || line.startsWith("#")) continue;
    if (line.startsWith("> ")) {
      const [leaf, names] = line.slice(2).split(": ");
      const parent = leaves.get(leaf);
      if (parent === undefined) throw new Error(`there is no ${leaf}`);
      list(names).forEach((name, index) => add(parent + letters(index, 1), parent, name, false));
    } else if (!line.startsWith(" ")) {
      department = letters(departments++, 2);
      groups = 0;
      add(department, "", line.trim(), true);
    } else {
      const [name, names] = line.trim().split(": ");
      group = department + letters(groups++, 1);
      add(group, department, name, true);
      list(names).forEach((leaf, index) => {
        const code = group + letters(index, 1);
        leaves.set(leaf, code);
        add(code, group, leaf, false);
      });
    }
  }
  const words = JSON.parse(readFileSync(new URL("trees/merrowgate-words.json", import.meta.url), "utf8"));
  const csv = rows.map(({ code, parent, name, closed }) =>
    [code, parent, quoted(name), quoted(words[name] ?? ""), closed ? "yes" : ""].join(","),
  );
  writeFileSync(
    outputPath("definitions", "merrowgate", "categories.csv"),
    `code,parent,name,search_words,closed\n${csv.join("\n")}\n`,
  );
  process.stdout.write(`merrowgate: ${rows.length} categories\n`);
};

/** Gavelstead numbers its halls and tables: 4 digits and more, two a level. */
const gavelstead = () => {
  const rows = [];
  let [hall, table] = [0, 0];
  const two = (number) => String(number).padStart(2, "0");
  for (const line of readFileSync(new URL("trees/gavelstead.txt", import.meta.url), "utf8").split("\n")) {
    if (line.trim() === "" || line.startsWith("#")) continue;
    if (!line.startsWith(" ")) {
      hall++;
      table = 0;
      rows.push([`L${two(hall)}`, "", line.trim(), "", "yes"]);
      continue;
    }
    const [name, names] = line.trim().split(": ");
    const code = `L${two(hall)}${two(++table)}`;
    rows.push([code, `L${two(hall)}`, name, "", "yes"]);
    list(names).forEach((lot, index) => rows.push([code + two(index + 1), code, lot, "", ""]));
  }
  write("gavelstead", "code,parent,name,search_words,closed", rows);
};

/** Fjordhandel has words for codes, in one language for all. */
const fjordhandel = () => {
  const rows = [];
  const word = (name) =>
    name
      .toLowerCase()
      .replace(/['’]/g, "")
      .replace(/[^a-z0-9]+/g, "_");
  let top = "";
  for (const line of readFileSync(new URL("trees/fjordhandel.txt", import.meta.url), "utf8").split("\n")) {
    if (line.trim() === "" || line.startsWith("#")) continue;
    if (!line.startsWith(" ")) {
      const [name, german] = line.split(" | ").map((part) => part.trim());
      top = word(name);
      rows.push([top, "", name, german, "", "yes"]);
      continue;
    }
    const [head, names] = line.trim().split(": ");
    const [name, german] = head.split(" | ");
    const group = `${top}.${word(name)}`;
    rows.push([group, top, name, german, "", "yes"]);
    for (const leaf of names.split(";")) {
      const [own, ownGerman] = leaf.split("|").map((part) => part.trim());
      rows.push([`${group}.${word(own)}`, group, own, ownGerman, "", ""]);
    }
  }
  write("fjordhandel", "code,parent,name,name@de,search_words,closed", rows);
};

const write = (channel, header, rows) => {
  const csv = rows.map((cells) => cells.map(quoted).join(","));
  writeFileSync(outputPath("definitions", channel, "categories.csv"), `${header}\n${csv.join("\n")}\n`);
  process.stdout.write(`${channel}: ${rows.length} categories\n`);
};

merrowgate();
gavelstead();
fjordhandel();
