// Writes the demo shop's export from demo/families: the same families give the same bytes.
// The dirt below is of the kinds that such exports have; each is put at a known product, so that tests can count on it.
import { readFileSync, writeFileSync } from "node:fs";
import { outputPath } from "./setup.mjs";
import { parse } from "yaml";
import { channelWords, seedCatalogue, stockOfTheDay, tradeList } from "./brindlecote-deliveries.mjs";

const families = ["beekeeping", "garden", "house"].flatMap((name) =>
  parse(readFileSync(new URL(`../demo/families/${name}.yaml`, import.meta.url), "utf8")),
);

const columns = [
  "Article no",
  "Family",
  "Varies by",
  "Title",
  "Long text",
  "Highlights",
  "Brand",
  "Maker's no",
  "Barcode",
  "ISBN",
  "Section",
  "Colour",
  "Size",
  "Material",
  "Condition",
  "Price",
  "Offer price",
  "Offer from",
  "Offer until",
  "VAT %",
  "In stock",
  "Back on",
  "Picture",
  "Page",
  "Item weight",
  "Parcel weight",
  "Made in",
  "Age group",
  "Least age",
  "Hazard",
  "Battery",
  "Contents",
  "Download",
  "Own make",
  "Author",
  "Parts",
  "Status",
];

const checkDigit = (digits) => {
  let sum = 0;
  [...digits].reverse().forEach((digit, index) => (sum += Number(digit) * (index % 2 === 0 ? 3 : 1)));
  return (10 - (sum % 10)) % 10;
};
// 952 is the GS1 prefix for demonstrations and examples; 979-9 is no registered book group.
const gtin = (number) =>
  `9524000${String(number).padStart(5, "0")}` + checkDigit(`9524000${String(number).padStart(5, "0")}`);
const isbn = (number) =>
  `97990000${String(number).padStart(4, "0")}` + checkDigit(`97990000${String(number).padStart(4, "0")}`);

/** A small stable hash, for amounts that only have to look natural. */
const hash = (text) => [...text].reduce((sum, character) => (sum * 31 + character.codePointAt(0)) >>> 0, 7);

const money = (amount) => amount.toFixed(2);
const slug = (text) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");

/** "L=+4" is the size L at four pounds more. */
const axis = (entries = []) =>
  entries.map((entry) => {
    const [label, extra = "0"] = String(entry).split("=");
    return { label, extra: Number(extra) };
  });

const suffixOf = (label) => {
  const size = /^(?:pack of |box of )?([\d.,]+)/.exec(label)?.[1];
  const word = size ?? label.split(" ")[0].slice(0, 5);
  return word.replace(/[.,]/g, "").toUpperCase();
};

const unique = (labels) => {
  const taken = new Set();
  return labels.map((label) => {
    let suffix = suffixOf(label);
    if (taken.has(suffix))
      suffix += label
        .replace(/[^A-Za-z]/g, "")
        .slice(-2)
        .toUpperCase();
    taken.add(suffix);
    return suffix;
  });
};

const html = ({ text, points = [] }) =>
  `<p>${text.replace(/&/g, "&amp;")}</p>` +
  (points.length === 0 ? "" : `<ul>${points.map((point) => `<li>${point}</li>`).join("")}</ul>`);

const weightText = (kilos, style) => {
  if (kilos === undefined) return "";
  if (style % 7 === 0 && kilos < 1) return `${Math.round(kilos * 1000)} g`;
  return style % 5 === 0 ? `${kilos} kg` : String(kilos);
};

let number = 100;
const rows = families.flatMap((family) => {
  const sizes = axis(family.sizes);
  const colors = axis(family.colors);
  const sizeSuffixes = unique(sizes.map(({ label }) => label));
  const colorSuffixes = unique(colors.map(({ label }) => label));
  const axes = [...(colors.length > 1 ? ["color"] : []), ...(sizes.length > 1 ? ["size"] : [])];
  const base = typeof family.price === "string" ? Number(family.price.replace(/,/g, "")) : family.price;
  const members = (colors.length === 0 ? [{ label: "", extra: 0 }] : colors).flatMap((color, c) =>
    (sizes.length === 0 ? [{ label: "", extra: 0 }] : sizes).map((size, s) => ({ color, size, c, s })),
  );
  return members.map(({ color, size, c, s }) => {
    const sku = [
      family.id,
      ...(colors.length > 1 ? [colorSuffixes[c]] : []),
      ...(sizes.length > 1 ? [sizeSuffixes[s]] : []),
    ].join("-");
    const style = hash(sku);
    number += 1;
    const stock = family.digital ? 999 : style % 11 === 0 ? 0 : style % 57;
    const picture = (view) =>
      `https://brindlecote.example/pictures/${slug(family.id)}${colors.length > 1 ? `-${slug(color.label)}` : ""}${view}.jpg`;
    const contents =
      family.contents === undefined
        ? ""
        : sizes.some(({ label }) => label === family.contents)
          ? size.label
          : family.contents;
    return {
      "Article no": sku,
      Family: axes.length > 0 ? family.id : "",
      "Varies by": axes.join("|"),
      Title: family.name,
      "Long text": html(family),
      Highlights: (family.points ?? []).join("|"),
      Brand: family.brand,
      "Maker's no":
        family.exempt || family.book ? "" : `${family.brand.slice(0, 2).toUpperCase()}-${sku.slice(3)}`,
      Barcode: family.exempt || family.book ? "" : gtin(number),
      ISBN: family.book ? isbn(number) : "",
      Section: family.section,
      Colour: color.label,
      Size: size.label,
      Material: family.material ?? "",
      Condition: "",
      Price:
        style % 9 === 0
          ? `£${money(base + color.extra + size.extra)}`
          : money(base + color.extra + size.extra),
      "Offer price": "",
      "Offer from": "",
      "Offer until": "",
      "VAT %":
        family.book || family.section.startsWith("Larder") || family.section.startsWith("Seeds > Veg")
          ? "0"
          : "20",
      "In stock": String(stock),
      "Back on": stock === 0 && style % 2 === 0 ? "2027-02-15" : "",
      Page: `https://brindlecote.example/shop/${slug(sku)}`,
      "Item weight": weightText(family.kg, style),
      "Parcel weight": weightText(family.parcel, style >> 3),
      "Made in": family.from ?? "",
      "Age group": family.age ?? "",
      "Least age": family.least ?? "",
      Hazard: family.hazard ?? "",
      Battery: family.battery ?? "",
      Contents: contents,
      Download: family.digital ? "yes" : "",
      "Own make": family.exempt ? "yes" : "",
      // Not of the export: what other files say of the same goods.
      family,
      pictures: [
        picture(""),
        style % 3 === 0 ? "" : picture("-detail"),
        style % 4 === 0 ? picture("-in-use") : "",
      ],
      Author: family.author ?? "",
      Parts: family.bundle ?? "",
      Status: "on sale",
    };
  });
});

const bySku = new Map(rows.map((row) => [row["Article no"], row]));
const set = (sku, values) => {
  const row = bySku.get(sku);
  if (row === undefined) throw new Error(`no product ${sku}`);
  Object.assign(row, values);
};
const family = (id) => rows.filter((row) => row.Family === id || row["Article no"] === id);

// Offers: most are right, one is no offer, one has no period.
const autumn = { "Offer from": "2026-11-20", "Offer until": "2026-12-24" };
for (const [id, share] of [
  ["BC-1301", 0.85],
  ["BC-3301", 0.8],
  ["BC-5301", 0.9],
  ["BC-1601", 0.9],
  ["BC-8103", 0.8],
])
  for (const row of family(id))
    set(row["Article no"], {
      "Offer price": money(Number(row.Price.replace("£", "")) * Number(share)),
      ...autumn,
    });
set("BC-4104-CREAM", { "Offer price": "69.00", ...autumn });
set("BC-5201", { "Offer price": "119.00" });

// What a spreadsheet, a hurried hand and a copied text leave behind.
set("BC-3610-4", { Barcode: "9.52400E+12" });
set("BC-5401-ZINC", { Barcode: bySku.get("BC-5401-ZINC").Barcode.slice(0, -1) + "0" });
set("BC-3304", { Barcode: "", "Maker's no": "" });
set("BC-2105", { Barcode: "" });
set("BC-4203", { pictures: [] });
set("BC-2304", { pictures: [] });
set("BC-5203", { "Item weight": "", "Parcel weight": "" });
set("BC-6202", { "Item weight": "0,08", "Parcel weight": "0,11" });
set("BC-1603", { Title: "Double\u00a0Honey Strainer " });
set("BC-3103", { Title: "  Copper-bronze Hand Trowel" });
set("BC-1602", { Price: "£1,149.00" });
set("BC-2602-WHITE", { Colour: "lilac" });
set("BC-1701-10", { "Long text": "<p>Ten queen cages.</p>" });
set("BC-1701-50", { "Long text": "<p>Fifty queen cages.</p>" });
set("BC-5205", {
  Title:
    "Honey Refractometer for checking the water content of honey before jarring, brass body, with hard case, pipette, screwdriver and calibration oil",
});
set("BC-6105-RUST-41", { Colour: "Rust " });
set("BC-2301", { Section: "Seeds>Herbs" });
set("BC-5104-BROWN", { "Age group": "n/a" });
for (const sku of ["BC-1121-10", "BC-1121-50", "BC-4102", "BC-5403-SLATE", "BC-3402", "BC-8105"])
  set(sku, { Status: "discontinued" });
for (const sku of ["BC-9104", "BC-7202"]) set(sku, { Status: "draft" });
set("BC-3502", { Condition: "open box" });

// One row without a number, and one that stands in the file twice.
const noNumber = { ...bySku.get("BC-5202"), "Article no": "", Title: "Jam Funnel, wide (new)" };
const twice = { ...bySku.get("BC-1402"), Price: "7.20" };
const all = [...rows, noNumber, twice];

const cell = (text) => (/[",\n]/.test(text) ? `"${String(text).replaceAll('"', '""')}"` : String(text));
// The hive maker weighs his parcels himself: the shop has never done it.
for (const row of rows) if (row.Brand === "Tarnbeck") row["Parcel weight"] = "";

/** A product's row with its first picture, and a row below it for each further one. */
const withPictures = (row) => {
  const [first = "", ...others] = row.pictures.filter(Boolean);
  const blank = Object.fromEntries(columns.map((column) => [column, ""]));
  return [
    { ...row, Picture: first },
    ...others.map((picture) => ({ ...blank, "Article no": row["Article no"], Picture: picture })),
  ];
};

const csv = [columns, ...all.flatMap(withPictures).map((row) => columns.map((column) => row[column]))]
  .map((cells) => `${cells.map(cell).join(",")}\n`)
  .join("");
const write = (name, content) => writeFileSync(outputPath("demo", "shop", "data", name), content);
write("shop-export.csv", csv);
write("tarnbeck-winter-list.xlsx", await tradeList(rows));
write("fernditch.xml", seedCatalogue(rows));
write("stock-2026-11-24.csv", stockOfTheDay(rows, hash, gtin));
write("lanternlist-words.txt", channelWords());
process.stdout.write(
  `${all.length} products, ${new Set(rows.map((row) => row.Family || row["Article no"])).size} groups and singles\n`,
);
