// How often a proposal for a file that nobody has described is right: header sets in many styles, hits and misses.
import { readFileSync } from "node:fs";
import { parse } from "yaml";

const sets = parse(readFileSync(new URL("./proposal/sets.yaml", import.meta.url), "utf8"));

const same = (a, b) => [...a].sort().join("\u0000") === [...b].sort().join("\u0000");

export const run = async () => {
  const { proposeSource } = await import("../dist/core/catalogue/proposal/propose.js");
  for (const heldOut of [false, true])
    measure(
      proposeSource,
      sets.filter((set) => (set.heldOut ?? false) === heldOut),
      heldOut,
    );
};

const measure = (proposeSource, measured, heldOut) => {
  process.stdout.write(heldOut ? "\nnever looked at while the rules were made:\n" : "");
  let [hits, misses, wrong, sure, wrongSure] = [0, 0, 0, 0, 0];
  for (const { name, table, expected, separator = "|", language = "en" } of measured) {
    const [header, ...rows] = table
      .trim()
      .split("\n")
      .map((line) => line.split(separator).map((cell) => cell.trim()));
    const proposal = proposeSource({ header, rows }, language);
    const found = new Map(
      proposal.attributes.filter(({ known }) => known).map((one) => [one.attribute, one]),
    );
    const pairs = [...proposal.options, ...proposal.pairs].flatMap((pair) => [pair.name, pair.value]);
    const problems = [];
    for (const [attribute, columns] of Object.entries(expected)) {
      const got = attribute === "options" ? pairs : found.get(attribute)?.columns;
      if (got !== undefined && same(got, columns)) hits++;
      else {
        misses++;
        problems.push(
          `missed ${attribute} ← ${columns.join(", ")}${got === undefined ? "" : ` (got ${got.join(", ")})`}`,
        );
      }
    }
    const extra = ["width", "height", "depth", "package_width", "package_height"];
    for (const [attribute, { columns, confidence }] of found) {
      const isRight = attribute in expected && same(columns, expected[attribute]);
      const isPart =
        extra.includes(attribute) && Object.values(expected).some((names) => same(names, columns));
      if (confidence >= 0.85) sure++;
      if (isRight || isPart) continue;
      if (confidence >= 0.85) wrongSure++;
      if (!(attribute in expected)) {
        wrong++;
        problems.push(`claimed ${attribute} ← ${columns.join(", ")}`);
      }
    }
    process.stdout.write(
      `${problems.length === 0 ? "right" : "     "}  ${name}${problems.length === 0 ? "" : `: ${problems.join("; ")}`}\n`,
    );
  }
  process.stdout.write(
    `${measured.length} header sets: ${hits} of ${hits + misses} attributes right, ${misses} missed, ${wrong} claimed for columns that are the shop's own; ` +
      `called sure: ${sure}, of which wrong: ${wrongSure}\n`,
  );
};
