// How often a proposal for a file that nobody has described is right: file shapes in many styles, hits and misses.
import { readFileSync } from "node:fs";
import { parse } from "yaml";

const read = (name) => parse(readFileSync(new URL(`./proposal/${name}`, import.meta.url), "utf8"));

const checkDigit = (digits) => {
  let sum = 0;
  for (let at = digits.length - 1, weight = 3; at >= 0; at--, weight = 4 - weight)
    sum += Number(digits[at]) * weight;
  return (10 - (sum % 10)) % 10;
};

/** `952400000201~` with its check digit; dashes between the digits stay. */
const withDigits = (text) =>
  text.replace(/[\d-]{12,}~/g, (written) => written.slice(0, -1) + checkDigit(written.replace(/\D/g, "")));

const alikePaths = (a, b) => a === b || a.endsWith(`/${b}`) || b.endsWith(`/${a}`);

const same = (a, b) => [...a].sort().join("\u0000") === [...b].sort().join("\u0000");

export const run = async (wish) => {
  const wanted = wish === "tuning" ? "tuning" : undefined;
  const sets = [
    ...read("sets.yaml").map((set) => ({ key: undefined, ...set })),
    ...read("shapes.yaml"),
    ...read("strangers.yaml"),
  ];
  const tools = {
    ...(await import("../modules/core/catalogue/proposal/propose.js")),
    ...(await import("../modules/core/catalogue/proposal/known-values.js")),
    ...(await import("../modules/flow/import/sample-file.js")),
    ...(await import("../modules/formats/open-table.js")),
    ...(await import("../modules/formats/byte-source.js")),
    ...(await import("../modules/core/catalogue/proposal/choose-records.js")),
  };
  for (const heldOut of [undefined, "first", "second", "third", ...(wish === "sealed" ? ["fourth"] : [])])
    if (wanted !== "tuning" || heldOut === undefined)
      await measure(
        tools,
        sets.filter((set) => set.heldOut === heldOut),
        heldOut,
      );
};

/** The set as a file of its format, opened as an import would. */
const opened = async (
  { openTable, sourceOf, chooseRecords },
  { table, text, format = "csv", separator = "|" },
) => {
  const content = withDigits(text ?? table);
  const trimmed =
    text === undefined && separator === "|"
      ? content.replace(/ *\| */g, "|").replace(/^ +| +$/gm, "")
      : content;
  const bytes = Buffer.from(trimmed);
  const chunks = async () => [bytes][Symbol.iterator]();
  const once = async function* () {
    yield bytes;
  };
  void chunks;
  const source = sourceOf(`file.${format === "jsonl" ? "jsonl" : format}`, async () => once());
  return openTable(source, { format, chooseRecords, ...(format === "csv" ? { delimiter: separator } : {}) });
};

const titles = {
  tuned: "",
  first: "\nnot looked at until most of the rules were made:\n",
  third: "\nby nobody's plan, measured once before any of it was read:\n",
  fourth: "\nthe other half of these, measured when all was done:\n",
  second: "\nwritten when the rules were made, and not looked at until they were run once:\n",
};

const measure = async (tools, measured, heldOut) => {
  process.stdout.write(titles[heldOut ?? "tuned"]);
  let [hits, misses, wrong, sure, wrongSure, keys, keyed, structures, structured] = [
    0, 0, 0, 0, 0, 0, 0, 0, 0,
  ];
  for (const set of measured) {
    const { name, expected, language = "en", known, any = [], alternatives = {} } = set;
    // What is refused is wrong in all that was wanted of it.
    const table = await opened(tools, set).catch((refusal) => refusal);
    if (table instanceof Error) {
      misses += Object.keys(expected).length;
      keyed++;
      structured++;
      process.stdout.write(`       ${name}: refused, ${table.message}\n`);
      continue;
    }
    const knownTexts =
      known &&
      Object.fromEntries(
        Object.entries(known).map(([key, values]) => [key, values.map((value) => withDigits(String(value)))]),
      );
    const alone = tools.sampleOf(table);
    const sample = knownTexts === undefined ? alone : { ...alone, known: tools.beside(alone, knownTexts) };
    const proposal = tools.proposeSource(sample, language, set.shopCurrency);
    const found = new Map(proposal.attributes.filter((one) => one.known).map((one) => [one.attribute, one]));
    const pairs = [...proposal.options, ...proposal.pairs].map((pair) => [pair.name, pair.value]);
    const problems = [];
    // Where a column says the language of its row, a text's column stands for it in each of them.
    const { languageFrom } = proposal.rows;
    const byRow = ([column, mark], attribute) =>
      mark !== undefined &&
      mark === languageFrom &&
      same(found.get(attribute.split("@")[0])?.columns ?? [], [column]);
    const isRight = (attribute, columns) =>
      (attribute in expected && same(columns, expected[attribute])) ||
      (attribute in alternatives && same(columns, alternatives[attribute]));
    for (const [attribute, columns] of Object.entries(expected)) {
      const got = attribute === "options" ? pairs.flat() : found.get(attribute)?.columns;
      if (got !== undefined && (same(got, columns) || isRight(attribute, got))) hits++;
      else if (byRow(columns, attribute)) hits++;
      else if (any.includes(attribute)) continue;
      else {
        misses++;
        problems.push(
          `missed ${attribute} ← ${columns.join(", ")}${got === undefined ? "" : ` (got ${got.join(", ")})`}`,
        );
      }
    }
    const extra = ["width", "height", "depth", "package_width", "package_height", ...any];
    // A catalogue begins with SKUs: where a file has none, another number is one.
    if (known === undefined && !("sku" in expected)) extra.push("sku");
    for (const [attribute, { columns, confidence }] of found) {
      const right = isRight(attribute, columns) || byRow(expected[attribute] ?? [], attribute);
      const isPart =
        extra.includes(attribute) &&
        (any.includes(attribute) || Object.values(expected).some((names) => same(names, columns)));
      if (confidence >= 0.85) sure++;
      if (right || isPart) continue;
      if (confidence >= 0.85) {
        wrongSure++;
        problems.push(`SURE AND WRONG ${attribute}`);
      }
      if (!(attribute in expected)) {
        wrong++;
        problems.push(`claimed ${attribute} ← ${columns.join(", ")}`);
      }
    }
    if (set.key !== undefined) {
      keyed++;
      const wantedKeys = set.key === "none" ? [] : set.key;
      const isKey = same(proposal.keys, wantedKeys) && (set.mode === "none" || proposal.mode === set.mode);
      if (isKey) keys++;
      else
        problems.push(
          `key ${proposal.keys.join(" or ") || "none"}, ${proposal.mode}; expected ${wantedKeys.join(" or ") || "none"}, ${set.mode}`,
        );
      structured++;
      const faults = [
        ...(set.records !== undefined && !alikePaths(table.records ?? "", set.records)
          ? [`records ${table.records}; expected ${set.records}`]
          : []),
        ...(set.groups !== undefined && proposal.groups.layout !== set.groups
          ? [`groups ${proposal.groups.layout}; expected ${set.groups}`]
          : []),
        ...(set.pairs !== undefined && JSON.stringify(pairs) !== JSON.stringify(set.pairs)
          ? [`pairs ${JSON.stringify(pairs)}`]
          : []),
        ...(set.pairs === undefined && set.format !== undefined && pairs.length > 0
          ? [`pairs ${JSON.stringify(pairs)}`]
          : []),
        ...Object.entries(set.units ?? {}).flatMap(([attribute, unit]) =>
          proposal.units[attribute] === unit ? [] : [`unit of ${attribute} ${proposal.units[attribute]}`],
        ),
        ...(set.currency !== undefined && proposal.currency !== set.currency
          ? [`currency ${proposal.currency}`]
          : []),
        ...(set.sides === undefined
          ? []
          : set.sides.flatMap((side, at) =>
              found.get(side)?.expression.endsWith(`${at + 1})`) ? [] : [`side ${side}`],
            )),
      ];
      if (faults.length === 0) structures++;
      problems.push(...faults);
    }
    process.stdout.write(
      `${problems.length === 0 ? "right" : "     "}  ${name}${problems.length === 0 ? "" : `: ${problems.join("; ")}`}\n`,
    );
  }
  const share = (part, whole) => `${part} of ${whole} (${((part / Math.max(1, whole)) * 100).toFixed(1)} %)`;
  process.stdout.write(
    `${measured.length} file shapes: columns right ${share(hits, hits + misses)}, ${wrong} claimed that are the shop's own; ` +
      `called sure ${sure}, of which wrong ${share(wrongSure, sure)}; key and mode right ${share(keys, keyed)}; record and structure right ${share(structures, structured)}\n`,
  );
};
