// Expressions evaluated per second, each beside the same written by hand in JavaScript, in turns within one run.
import { Decimal } from "decimal.js";
import { namesOf } from "../modules/core/language/names.js";
import { lookUpTable } from "../modules/core/language/look-up-table.js";
import { program } from "../modules/core/language/program.js";
import { decimal } from "../modules/core/values/decimal.js";
import { readValue } from "../modules/core/values/read.js";

const PRODUCTS = 2000;
const ROUNDS = 15;
const words = ["Cedar", "Garden", "Hive", "Copper", "Smoker", "with", "guard", "Orchard", "Long", "Border"];

/** A small generator with a seed, so that each run has the same products. */
const random = (seed) => () => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;

const made = () => {
  const next = random(7);
  const pick = (list) => list[Math.floor(next() * list.length)];
  return Array.from({ length: PRODUCTS }, () => {
    const name = Array.from({ length: 3 + Math.floor(next() * 6) }, () => pick(words)).join(" ");
    return {
      brand: pick(["Tarnbeck", "Hollinside", "Wickenlow"]),
      name,
      color: next() < 0.4 ? undefined : pick(["moss green", "white", "sand"]),
      size: next() < 0.4 ? undefined : pick(["S", "M", "10 frames"]),
      price: (1 + Math.floor(next() * 30000) / 100).toFixed(2),
      weight: (Math.floor(next() * 40000) / 1000).toFixed(3),
    };
  });
};

const value = (kind, text) => {
  const reading = readValue(kind, text);
  if (!("value" in reading)) throw new Error(`${text} is no ${kind}`);
  return reading.value;
};

const bands = [
  ["GB", "0.750", "1.80"],
  ["GB", "2.000", "3.60"],
  ["GB", "30.000", "5.40"],
  ["GB", "", "49.00"],
  ["DE", "5.000", "7.90"],
  ["DE", "", "14.90"],
];

const byHand = {
  title(product) {
    let text = `${product.brand} ${product.name}`;
    if (product.color !== undefined) text += `, ${product.color}`;
    if (product.size !== undefined) text += `, ${product.size}`;
    if (text.length <= 40) return text;
    const end = text[40] === " " ? 40 : text.lastIndexOf(" ", 40);
    return text.slice(0, end).replace(/[\s,;:–-]+$/, "");
  },
  price({ exactPrice }) {
    const raised = exactPrice.times("1.04");
    const floor = raised.floor().plus("0.95");
    return floor.lt(raised) ? floor.plus(1) : floor;
  },
  band({ exactWeight }, rows) {
    for (const { country, limit, cost } of rows)
      if (country === "GB" && (limit === undefined || exactWeight.lte(limit))) return cost;
    return undefined;
  },
};

export const run = () => {
  const products = made();
  const table = lookUpTable(
    "parcels",
    ["country", "up_to", "cost"],
    bands.map(([country, limit, cost]) => [country, limit === "" ? "" : `${limit} kg`, `${cost} GBP`]),
  );
  const attributes = [
    ["brand", "text"],
    ["name", "text"],
    ["color", "text"],
    ["size", "text"],
    ["price", "money"],
    ["weight", "measure"],
  ];
  const names = namesOf(
    "attribute",
    attributes.map(([name, kind]) => ({
      name,
      kind: /** @type {import("../src/core/language/kind.js").ResultKind} */ (kind),
    })),
  );
  /** @type {import("../src/core/language/function.js").Surroundings} */
  const surroundings = {
    today: { kind: "date", iso: "2026-03-01" },
    tables: new Map([["parcels", table]]),
  };
  const compile = (text) => {
    const ready = program({ text, place: { file: "bench" } }, names, surroundings);
    if (ready.kind === "faulty") throw new Error(JSON.stringify(ready.findings));
    return ready;
  };
  const scopes = products.map(({ brand, name, color, size, price, weight }) => {
    const values = [
      brand,
      name,
      color,
      size,
      value("money", `${price} GBP`),
      value("measure", `${weight} kg`),
    ];
    return { value: (slot) => values[slot] };
  });
  const Exact = Decimal.clone({ precision: 40, rounding: Decimal.ROUND_HALF_UP });
  const plain = products.map((product) => ({
    ...product,
    exactPrice: new Exact(product.price),
    exactWeight: decimal(product.weight),
  }));
  const rows = bands.map(([country, limit, cost]) => ({
    country,
    limit: limit === "" ? undefined : new Exact(limit),
    cost: `${cost} GBP`,
  }));
  /** @type {readonly (readonly [string, string, (product: any) => unknown])[]} */
  const pairs = [
    ["a title template", 'fit("{brand} {name}{, color}{, size}", 40)', (product) => byHand.title(product)],
    ["a price rule", "price_ending(price * 1.04, 0.95)", (product) => byHand.price(product)],
    ["a band look-up", 'from_band("parcels", "cost", weight, "GB")', (product) => byHand.band(product, rows)],
  ];
  for (const [title, text, hand] of pairs) {
    const ready = compile(text);
    const [ours, theirs] = inTurns(
      () => scopes.reduce((count, scope) => count + (ready.run(scope) === undefined ? 0 : 1), 0),
      () => plain.reduce((count, product) => count + (hand(product) === undefined ? 0 : 1), 0),
    );
    const perSecond = (milliseconds) => Math.round((PRODUCTS / milliseconds) * 1000).toLocaleString("en");
    process.stdout.write(
      `  ${title}: ${perSecond(ours)} a second, by hand ${perSecond(theirs)}; ${(ours / theirs).toFixed(1)} times as long\n`,
    );
  }
};

/** The middle of many rounds, both measured in each round: what else the machine does falls on both. */
const inTurns = (...works) => {
  const times = works.map(() => []);
  for (let round = 0; round < ROUNDS + 5; round++)
    works.forEach((work, index) => {
      const begun = performance.now();
      for (let i = 0; i < 5; i++) if (work() === 0) throw new Error("nothing came of it");
      if (round >= 5) times[index].push((performance.now() - begun) / 5);
    });
  return times.map((all) => all.sort((a, b) => a - b)[Math.floor(all.length / 2)]);
};
