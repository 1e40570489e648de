// @ts-nocheck -- the types of exceljs do not know the rules of cells
// What the made-up marketplace Tansyfield hands out, for the demo shop and the guide "your channel in an hour": a workbook to
// be filled in, its list of departments, and the workbook of the year after. Run again only when they are to change.
import ExcelJS from "exceljs";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { unzipSync, zipSync } from "fflate";

// Where they go: into the project, or into a folder of the same shape.
const target = process.argv[2] ?? fileURLToPath(new URL("..", import.meta.url));
const folder = join(target, "demo/shop/papers/tansyfield");
mkdirSync(folder, { recursive: true });

const grounds = ["New", "Opened", "Mended"];
const hues = ["Green", "Grey", "Brown", "White", "Black", "Red", "Blue", "Yellow", "Natural"];
const stuffs = ["Wood", "Steel", "Copper", "Cotton", "Leather", "Glass", "Plastic", "Wax", "Paper"];
const lands = ["GB", "IE", "DE", "FR", "NL", "PL", "SE", "CN"];

/** Group, code, heading, need, rule, values, example. */
const columns = [
  ["What it is", "tf_ref", "Your item number", "Must", "Text, at most 30 characters", undefined, "AB-100"],
  [
    "What it is",
    "tf_department",
    "Department",
    "Must",
    "The number of the department, from the list of departments",
    undefined,
    "210",
  ],
  [
    "What it is",
    "tf_title",
    "Item headline",
    "Must",
    "Text, at most 90 characters",
    undefined,
    "Border fork, ash handle",
  ],
  [
    "What it is",
    "tf_text",
    "Item description",
    "Must",
    "Text without HTML, at most 2,000 characters",
    undefined,
    "A fork for narrow beds.",
  ],
  ["What it is", "tf_maker", "Brand", "Should", "Text, at most 50 characters", undefined, "Hollinside"],
  [
    "What it is",
    "tf_bars",
    "Barcode (GTIN)",
    "May",
    "8 to 14 digits with a valid check digit",
    undefined,
    "9524000000011",
  ],
  [
    "Price and stock",
    "tf_price",
    "Selling price",
    "Must",
    "Amount in GBP with 2 decimals",
    undefined,
    "24.50",
  ],
  ["Price and stock", "tf_offer", "Offer price", "May", "Amount in GBP with 2 decimals", undefined, ""],
  [
    "Price and stock",
    "tf_offer_ends",
    "Offer ends on",
    "May",
    "Date as DD/MM/YYYY. Required if Offer price is given",
    undefined,
    "",
  ],
  ["Price and stock", "tf_stock", "Units available", "Must", "Whole number from 0 to 9999", undefined, "12"],
  ["Looks", "tf_ground", "Condition", "Must", "Choose from the list", grounds, "New"],
  ["Looks", "tf_hue", "Basic colour", "May", "Choose from the list", hues, "Brown"],
  ["Looks", "tf_stuff", "Main material", "May", "Choose from the list", stuffs, "Wood"],
  ["Looks", "tf_weight", "Weight (kg)", "May", "Number with 3 decimals", undefined, "1.400"],
  ["Looks", "tf_made", "Country of origin", "May", "Choose from the list", lands, "GB"],
  [
    "Pictures",
    "tf_picture_1",
    "Picture 1",
    "Must",
    "Full link, starting https://",
    undefined,
    "https://brindlecote.example/p/ab-100.jpg",
  ],
  ["Pictures", "tf_picture_2", "Picture 2", "May", "Full link, starting https://", undefined, ""],
  ["Pictures", "tf_picture_3", "Picture 3", "May", "Full link, starting https://", undefined, ""],
  [
    "Belonging together",
    "tf_family",
    "Family reference",
    "May",
    "Text, at most 30 characters; the same for all that belong together",
    undefined,
    "",
  ],
];

/** The year after: a column renamed, one more that must be filled, one gone, a shorter headline, other words in a list. */
const next = columns
  .filter(([, code]) => code !== "tf_made")
  .map(([group, code, heading, need, rule, values, example]) => {
    if (code === "tf_stock") return [group, "tf_units", "Units on hand", need, rule, values, example];
    if (code === "tf_title")
      return [group, code, heading, need, "Text, at most 70 characters", values, example];
    if (code === "tf_maker") return [group, code, heading, "Must", rule, values, example];
    if (code === "tf_ground") return [group, code, heading, need, rule, ["New", "As new", "Mended"], example];
    if (code === "tf_hue") return [group, code, heading, need, rule, [...hues, "Orange"], example];
    return [group, code, heading, need, rule, values, example];
  });
next.push([
  "Belonging together",
  "tf_batteries",
  "Contains batteries",
  "Must",
  "Choose from the list",
  ["Yes", "No"],
  "No",
]);

const letter = (column) => String.fromCharCode(64 + column);
const DAY = new Date("2026-09-01T00:00:00Z");

const workbook = async (edition, rows, file) => {
  const book = new ExcelJS.Workbook();
  Object.assign(book, { creator: "Tansyfield", created: DAY, modified: DAY });
  const about = book.addWorksheet("How to");
  about.columns = [{ width: 90 }];
  for (const text of [
    `Tansyfield goods sheet, edition ${edition}`,
    "Fill in one row for each item on the sheet Goods, from row 8 on.",
    "Must: without it the item is sent back. Should: found more often. May: leave it blank if you like.",
    "Leave the headings, the lists and column A as they are.",
  ])
    about.addRow([text]);
  const sheet = book.addWorksheet("Goods", { views: [{ state: "frozen", ySplit: 7, xSplit: 2 }] });
  const lists = book.addWorksheet("lists", { state: "hidden" });
  sheet.getCell("B1").value = `Tansyfield goods sheet, edition ${edition}`;
  sheet.getCell("B1").font = { bold: true, size: 14 };
  sheet.getCell("A6").value = "Ready?";
  let from = 2;
  const fills = { Must: "FFF2C9A0", Should: "FFF7E8C4", May: "FFE9E9E4" };
  rows.forEach(([group, code, heading, need, rule, values, example], at) => {
    const column = at + 2;
    if (rows[at + 1]?.[0] !== group) {
      sheet.getCell(3, from).value = group;
      if (column > from) sheet.mergeCells(3, from, 3, column);
      sheet.getCell(3, from).alignment = { horizontal: "center" };
      sheet.getCell(3, from).fill = { type: "pattern", pattern: "solid", fgColor: { argb: "FFD5DFC8" } };
      from = column + 1;
    }
    sheet.getColumn(column).width = Math.max(14, heading.length + 2);
    sheet.getCell(4, column).value = heading;
    sheet.getCell(4, column).font = { bold: true };
    sheet.getCell(4, column).fill = { type: "pattern", pattern: "solid", fgColor: { argb: fills[need] } };
    sheet.getCell(5, column).value = code;
    sheet.getCell(6, column).value = need;
    sheet.getCell(7, column).value = rule;
    sheet.getCell(7, column).alignment = { wrapText: true, vertical: "top" };
    sheet.getCell(8, column).value = example;
    sheet.getCell(8, column).font = { italic: true, color: { argb: "FF808080" } };
    if (values !== undefined) {
      const own = lists.columnCount + 1;
      [heading, ...values].forEach((value, row) => (lists.getCell(row + 1, own).value = value));
      const name = `list_${code}`;
      book.definedNames.add(`lists!$${letter(own)}$2:$${letter(own)}$${values.length + 1}`, name);
      sheet.dataValidations.add(`${letter(column)}8:${letter(column)}2000`, {
        type: "list",
        allowBlank: true,
        formulae: [name],
      });
    }
  });
  // A column that the sheet works out by itself.
  for (let row = 8; row <= 60; row++)
    sheet.getCell(row, 1).value = {
      formula: `IF(B${row}="","",IF(COUNTBLANK(B${row}:E${row})=0,"yes","no"))`,
      result: "",
    };
  // The same sheet gives the same bytes.
  const parts = unzipSync(new Uint8Array(await book.xlsx.writeBuffer()));
  writeFileSync(join(folder, file), zipSync(parts, { mtime: new Date("1980-01-01T00:00:00") }));
};

await workbook("2026", columns, "goods-2026.xlsx");
await workbook("2027", next, "goods-2027.xlsx");

const departments = [
  ["100", "", "Bees"],
  ["110", "100", "Hives and stands"],
  ["120", "100", "Smokers and hive tools"],
  ["130", "100", "Clothing for beekeepers"],
  ["140", "100", "Honey and wax"],
  ["200", "", "Garden"],
  ["210", "200", "Digging and hand tools"],
  ["220", "200", "Seeds and bulbs"],
  ["230", "200", "Watering"],
  ["240", "200", "Pots and growing"],
  ["250", "200", "Wildlife and bird care"],
  ["260", "200", "Lighting and heating"],
  ["300", "", "Books and paper"],
  ["400", "", "Children"],
  ["500", "", "Clothing"],
  ["600", "", "Kitchen and table"],
  ["700", "", "Gifts and sets"],
];
writeFileSync(
  join(folder, "departments.csv"),
  ["number,above,department", ...departments.map((row) => row.join(","))].join("\n") + "\n",
);
