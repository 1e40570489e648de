/**
 * How much of a channel `channels learn` sees in what it hands out: made-up templates in sixteen styles, the truth beside
 * them. `npm run bench templates` looks at the ten that may be looked at; `npm run bench templates held` at the six that
 * are kept unseen while the reader is worked on, and says no more of them than the shares.
 */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { styles } from "./templates/styles.mjs";
import { more } from "./templates/styles-more.mjs";
import { held } from "./templates/held.mjs";

const { readPapers } = await import("../dist/formats/paper-files.js");
const { learnChannel } = await import("../dist/core/learning/learn-channel.js");
const { corrections } = await import("../dist/core/learning/corrections.js");
const { SURE } = await import("../dist/core/learning/claim.js");

const wanted = process.argv.slice(2);
const isHeld = wanted.includes("held");
const tells = process.env.TELL === "1" && !isHeld;
const names = wanted.filter((name) => name !== "held");

const same = (a, b) => a.trim().toLowerCase() === b.trim().toLowerCase();
const setOf = (values) =>
  [...values]
    .map((value) => value.trim())
    .sort()
    .join("\n");

/** How each fact of the truth is held against what was learned. */
const asked = {
  need: (fact) => fact("need"),
  kind: (fact) => fact("kind"),
  max_length: (fact) => fact("max_length"),
  min: (fact) => fact("min"),
  max: (fact) => fact("max"),
  decimals: (fact) => fact("decimals"),
  unit: (fact) => fact("unit"),
  max_items: (fact) => fact("max_items"),
  values: (fact) => fact("values"),
};
const limits = ["max_length", "min", "max", "decimals", "unit", "max_items"];

const sum = new Map();
const count = (what, isRight) => {
  const [right = 0, all = 0] = sum.get(what) ?? [];
  sum.set(what, [right + (isRight ? 1 : 0), all + 1]);
};
let [sure, sureWrong] = [0, 0];

const folder = mkdtempSync(join(tmpdir(), "templates-"));
try {
  for (const [name, make] of Object.entries(isHeld ? held : { ...styles, ...more })) {
    if (names.length > 0 && !names.includes(name)) continue;
    const truth = await make(join(folder, name));
    const papers = [];
    for (const file of truth.files) papers.push(...(await readPapers(join(folder, name, file), file)).papers);
    const learned = learnChannel(papers, { corrections: corrections([]), attributes: [] });
    const tell = (text) => tells && console.log(`  ${name}: ${text}`);
    for (const fault of learned.faults) tell(`FAULT ${fault}`);
    for (const field of truth.fields) {
      const found = learned.fields.find(
        (one) =>
          (field.code !== undefined && same(one.name, field.code)) ||
          (field.code === undefined && field.label !== undefined && same(one.label, field.label)),
      );
      count("fields", found !== undefined);
      if (found === undefined) {
        tell(
          `no field ${field.code ?? field.label} (has ${learned.fields
            .map((one) => one.name)
            .join(", ")
            .slice(0, 300)})`,
        );
        continue;
      }
      const branch = field.scope !== undefined && field.scope !== "*" ? field.scope.toLowerCase() : undefined;
      const settled = (fact) =>
        found.facts.get(fact) ?? (branch === undefined ? undefined : found.byBranch.get(branch)?.get(fact));
      for (const [what, ask] of Object.entries(asked)) {
        if (field[what] === undefined) continue;
        const one = ask(settled);
        const value = one?.value;
        let isRight;
        if (what === "values") {
          // A yes or no is told by its kind; its two words need no list.
          const own = field.kind === "yes-no" && settled("kind")?.value === "yes-no";
          isRight = own || (value !== undefined && setOf(value.split("\n")) === setOf(field.values));
        } else
          isRight =
            value !== undefined && (value === String(field[what]) || Number(value) === Number(field[what]));
        const group = limits.includes(what)
          ? "limits"
          : what === "values"
            ? "lists"
            : what === "need"
              ? "needs"
              : what === "kind"
                ? "kinds"
                : what;
        count(group, isRight);
        if (one !== undefined && one.confidence >= SURE) {
          sure++;
          if (!isRight) sureWrong++;
        }
        if (!isRight)
          tell(
            `${field.code ?? field.label} ${what}: wants ${String(field[what]).slice(0, 60)}, has ${value?.slice(0, 60).replaceAll("\n", ",")} ${one === undefined ? "" : `(${one.confidence.toFixed(2)}, ${one.because})`}`,
          );
      }
      if (field.attribute !== undefined) {
        const isCategory = field.attribute === "category";
        const fill = found.facts.get("fill")?.value ?? "";
        const isRight = isCategory
          ? learned.guesses.get("category_field")?.value === found.code
          : new RegExp(`\\b${field.attribute}\\b`).test(fill) ||
            (field.attribute === "name" && fill.includes("{name}"));
        count("fills", isRight);
        if (!isRight) tell(`${field.code ?? field.label} fill: wants ${field.attribute}, has "${fill}"`);
      }
    }
    const extra = learned.fields.length - truth.fields.length;
    if (extra > 0)
      tell(
        `${extra} more fields than there are: ${learned.fields
          .filter(
            (one) =>
              !truth.fields.some(
                (field) => same(one.name, field.code ?? "") || same(one.label, field.label ?? ""),
              ),
          )
          .map((one) => one.name)
          .join(", ")}`,
      );
    if (truth.categories !== undefined) {
      count("trees", learned.categories.length === truth.categories);
      if (learned.categories.length !== truth.categories)
        tell(`categories: wants ${truth.categories}, has ${learned.categories.length}`);
    }
    for (const text of learned.told) tell(text);
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}

const share = ([right, all]) => `${((100 * right) / all).toFixed(1).padStart(5)} %  ${right} of ${all}`;
for (const [what, counts] of sum) console.log(`${what.padEnd(8)} ${share(counts)}`);
console.log(
  `sure and wrong ${((100 * sureWrong) / Math.max(1, sure)).toFixed(1)} %  ${sureWrong} of ${sure} told as sure`,
);
