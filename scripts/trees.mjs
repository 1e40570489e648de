// Makes the big definitions' trees from the lists in scripts/trees: codes follow from the order, so new names go to the end.
import { readFileSync, writeFileSync } from "node:fs";

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
    new URL("../definitions/merrowgate/categories.csv", import.meta.url),
    `code,parent,name,search_words,closed\n${csv.join("\n")}\n`,
  );
  process.stdout.write(`merrowgate: ${rows.length} categories\n`);
};

merrowgate();
