// @ts-nocheck -- the types of exceljs do not know the rules of cells
/** A channel's sheet and tree, and the same a year later with sixty changes planted in them; the changes stand beside. */
import ExcelJS from "exceljs";
import { fieldsOf, stream } from "./concepts.mjs";
import { csv, englishLimits, letter, save } from "./styles.mjs";

const ids = [
  "sku",
  "title",
  "text",
  "brand",
  "maker",
  "barcode",
  "part",
  "price",
  "listprice",
  "saleprice",
  "salefrom",
  "saleuntil",
  "stock",
  "state",
  "shade",
  "hue",
  "size",
  "stuff",
  "weight",
  "width",
  "height",
  "depth",
  "picture",
  "points",
  "words",
  "link",
  "origin",
  "battery",
  "hazard",
  "ages",
  "days",
  "warranty",
  "tax",
  "carriage",
  "care",
  "capacity",
  "power",
  "blade",
  "pack",
  "season",
];

const book = (fields) => {
  const own = new ExcelJS.Workbook();
  const sheet = own.addWorksheet("Goods");
  const lists = own.addWorksheet("lists", { state: "hidden" });
  let list = 0;
  fields.forEach((field, at) => {
    sheet.getCell(1, at + 1).value = field.label;
    sheet.getCell(2, at + 1).value = field.code;
    sheet.getCell(3, at + 1).value = {
      required: "Required",
      recommended: "Recommended",
      optional: "Optional",
    }[field.need];
    sheet.getCell(4, at + 1).value = field.values
      ? "From the list"
      : englishLimits({ ...field, max_items: undefined }, at) || "Text";
    if (!field.values) return;
    list++;
    field.values.forEach((value, row) => (lists.getCell(row + 1, list).value = value));
    sheet.dataValidations.add(`${letter(at + 1)}5:${letter(at + 1)}500`, {
      type: "list",
      formulae: [`lists!$${letter(list)}$1:$${letter(list)}$${field.values.length}`],
    });
  });
  return own;
};

const tree = [
  ["1", "", "Garden"],
  ["11", "1", "Hand tools"],
  ["111", "11", "Spades"],
  ["112", "11", "Forks"],
  ["113", "11", "Trowels"],
  ["12", "1", "Seeds"],
  ["121", "12", "Vegetables"],
  ["122", "12", "Flowers"],
  ["123", "12", "Herbs"],
  ["13", "1", "Watering"],
  ["131", "13", "Cans"],
  ["132", "13", "Hoses"],
  ["2", "", "Bees"],
  ["21", "2", "Hives"],
  ["22", "2", "Smokers"],
  ["23", "2", "Clothing"],
  ["231", "23", "Suits"],
  ["232", "23", "Gloves"],
  ["24", "2", "Feeding"],
  ["3", "", "House"],
  ["31", "3", "Lamps"],
  ["32", "3", "Candles"],
  ["33", "3", "Baskets"],
  ["4", "", "Books"],
  ["41", "4", "Gardening books"],
  ["42", "4", "Bee books"],
];

/** Other words for the same, as a channel's new editor would choose them. */
const renamed = {
  brand: ["g_marque_name", "Make or brand"],
  stock: ["g_on_hand", "Quantity on hand"],
  maker: ["g_producer", "Producer"],
  shade: ["g_colour_text", "Colour in your words"],
  days: ["g_dispatch_within", "Dispatch within (days)"],
  stuff: ["g_made_of", "Made mainly of"],
  link: ["g_landing", "Link to the product page"],
  season: ["g_time", "Best season"],
};
const respelled = {
  state: ["Refurbished", "Re-furbished"],
  hue: ["Grey", "Gray"],
  carriage: ["Bulky parcel", "Bulky parcels"],
  ages: ["Toddlers", "Toddler"],
  size: ["XXL", "2XL"],
};

/** Both editions' files and the truth. `seed` chooses which needs and limits move. */
export const reissue = async (folder, seed = 7) => {
  const random = stream(seed);
  const before = fieldsOf(ids, { language: "en", seed: 401, code: "snake", prefix: "g" }).map(
    ({ max_items: _, list: __, ...field }) => field,
  );
  const truth = [];
  let after = before.map((field) => ({ ...field, ...(field.values ? { values: [...field.values] } : {}) }));
  const of = (id) => after.find((field) => field.id === id);
  for (const [id, [code, label]] of Object.entries(renamed)) {
    truth.push({ change: "field-renamed", field: of(id).code, to: code });
    Object.assign(of(id), { code, label });
  }
  for (const id of ["power", "blade", "capacity", "pack", "care"])
    truth.push({ change: "field-gone", field: of(id).code });
  after = after.filter(({ id }) => !["power", "blade", "capacity", "pack", "care"].includes(id));
  for (const [code, label, need, rule] of [
    ["g_repair", "Repair score", "optional", { kind: "integer", min: 1, max: 10 }],
    ["g_label", "Energy label", "recommended", { values: ["A", "B", "C", "D"] }],
    ["g_contact", "Safety contact", "required", { kind: "text", max_length: 120 }],
    ["g_recycled", "Recycled share", "optional", { kind: "integer", min: 0, max: 100 }],
    ["g_manual", "Manual as a file", "optional", { kind: "url" }],
    ["g_deposit", "Deposit on return", "optional", { kind: "money", decimals: 2 }],
  ]) {
    after.push({ id: code, code, label, need, kind: "text", examples: [], ...rule });
    truth.push({ change: "field-added", field: code });
  }
  const shuffled = (list) =>
    list
      .map((one) => [random(), one])
      .sort(([a], [b]) => a - b)
      .map(([, one]) => one);
  const steady = after.filter(({ id }) => !(id in renamed) && ids.includes(id));
  for (const field of shuffled(steady.filter(({ id }) => id !== "sku")).slice(0, 8)) {
    field.need = field.need === "required" ? "optional" : "required";
    truth.push({ change: "field-moved", field: field.code, what: "need" });
  }
  for (const field of shuffled(steady.filter(({ max_length: length }) => length !== undefined)).slice(0, 6)) {
    field.max_length += 37;
    truth.push({ change: "field-moved", field: field.code, what: "max length" });
  }
  of("tax").max = 45;
  truth.push({ change: "field-moved", field: of("tax").code, what: "max" });
  for (const [id, [value, to]] of Object.entries(respelled)) {
    const field = of(id);
    field.values[field.values.indexOf(value)] = to;
    truth.push({ change: "value-renamed", field: field.code, value, to });
  }
  for (const [id, value] of [
    ["hue", "Turquoise"],
    ["stuff", "Willow"],
    ["stuff", "Wool"],
    ["origin", "SE"],
    ["ages", "Teenagers"],
    ["carriage", "Courier with a date"],
  ]) {
    of(id).values.push(value);
    truth.push({ change: "value-added", field: of(id).code, value });
  }
  for (const [id, value] of [
    ["hue", "Black"],
    ["stuff", "Leather"],
    ["stuff", "Plastic"],
    ["origin", "PT"],
    ["size", "XS"],
  ]) {
    of(id).values = of(id).values.filter((one) => one !== value);
    truth.push({ change: "value-gone", field: of(id).code, value });
  }
  let rows = tree.map((row) => [...row]);
  const row = (code) => rows.find(([own]) => own === code);
  row("113")[1] = "1";
  truth.push({ change: "category-moved", code: "113" });
  row("24")[2] = "Feeding and feeders";
  truth.push({ change: "category-moved", code: "24" });
  Object.assign(row("33"), ["339", "3", "Baskets"]);
  truth.push({ change: "category-moved", code: "33" });
  rows = rows.filter(([code]) => code !== "132" && code !== "42" && code !== "123");
  for (const code of ["132", "42", "123"]) truth.push({ change: "category-gone", code });
  for (const added of [
    ["25", "2", "Honey jars"],
    ["114", "11", "Dibbers"],
    ["34", "3", "Door mats"],
    ["43", "4", "Notebooks"],
  ]) {
    rows.push(added);
    truth.push({ change: "category-added", code: added[0] });
  }
  const departments = (own) => csv([["code", "parent", "name"], ...own]);
  return {
    before: [
      await save(folder, "goods-1.xlsx", book(before)),
      await save(folder, "departments.csv", departments(tree)),
    ],
    after: [
      await save(folder, "goods-2.xlsx", book(after)),
      await save(folder, "departments-2.csv", departments(rows)),
    ],
    truth,
  };
};

/** Whether a change that was told is one that was planted. */
export const isPlanted = (planted, told) =>
  Object.entries(planted).every(([key, value]) =>
    String(told[key] ?? (key === "what" ? told.what : "")).startsWith(String(value)),
  );
