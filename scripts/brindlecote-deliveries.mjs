// What others send Brindlecote about the same goods: the hive maker, the seed house, the warehouse, the copywriter.
import { readFileSync } from "node:fs";
import { writeXlsx } from "hucre/xlsx";
import { parse } from "yaml";

// The same list gives the same bytes on any day.
const UNDATED = new Date("2000-01-01T00:00:00Z");

const decimals = (number, places) => Number(number.toFixed(places));

/** Outside sizes in inches by family, as a joiner writes them; the same again, boxed. */
const inches = {
  "BC-1101": ["19 7/8 x 18 1/8 x 27", "30 x 22 x 14"],
  "BC-1102": ["18 1/8 x 18 1/8 x 24 1/2", "19 x 19 x 25"],
  "BC-1110": ["18 1/8 x 18 1/8 x 8 7/8", "19 x 10 x 3 1/2"],
  "BC-1111": ["18 1/8 x 18 1/8 x 5 7/8", "19 x 7 x 3"],
  "BC-1112": ["18 1/8 x 18 1/8 x 4", "19 x 19 x 4 1/2"],
  "BC-1113": ["19 1/2 x 19 1/2 x 9 3/4", "20 x 20 x 10"],
  "BC-1120": ["17 x 14 x 1 1/8", "18 x 15 x 6"],
  "BC-1121": ["17 x 6 1/4 x 1 1/8", "18 x 7 x 6"],
  "BC-1123": ["13 1/2 x 8 1/4 x 1", "14 x 9 x 2"],
  "BC-1501": ["18 1/8 x 18 1/8 x 3 3/4", "19 x 19 x 4"],
  "BC-1702": ["18 1/8 x 9 x 12", "19 x 10 x 13"],
};

const pound = 0.45359237;

/** The hive maker's trade list: a workbook whose second sheet has titles above its header. */
export const tradeList = async (rows) => {
  const made = rows.filter((row) => row.Brand === "Tarnbeck");
  const lines = made.map((row) => {
    const { id, kg, parcel } = row.family;
    const [size = "", boxed = ""] = inches[id] ?? [];
    const ounces = Math.round((parcel / pound) * 16);
    const price = Number(row.Price.replace(/[£,]/g, ""));
    return [
      row["Maker's no"],
      [row.Title, row.Size, row.Colour].filter(Boolean).join(", "),
      size.replaceAll(" x ", " × "),
      decimals(kg / pound, 1),
      Math.floor(ounces / 16),
      ounces % 16,
      boxed,
      decimals(price * 0.58, 2),
      decimals(price * 1.04, 2),
    ];
  });
  const header = [
    "Our no.",
    "Goods",
    "Outside, in",
    "Net lb",
    "Boxed lb",
    "oz",
    "Box, in",
    "Trade £",
    "Recommended £",
  ];
  return writeXlsx({
    properties: { created: UNDATED, modified: UNDATED },
    sheets: [
      {
        name: "Terms",
        rows: [
          ["Carriage paid above £250. Prices hold until 31 March 2027."],
          ["Orders by post or telephone."],
        ],
      },
      {
        name: "Winter list",
        rows: [
          ["Tarnbeck Hive Works"],
          ["Trade list, winter 2026/27; prices in pounds sterling, without VAT"],
          [],
          header,
          ...lines,
          ["TA-1190", "Hive Stand, oak, folding", "20 × 20 × 16", 14.3, 16, 4, "22 x 22 x 4", 31.5, 54],
        ],
      },
    ],
  });
};

const xml = (text) => text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;");

/** The seed house's catalogue in two languages: XML with a namespace, marked texts in CDATA, repeated months. */
export const seedCatalogue = (rows) => {
  const german = parse(
    readFileSync(new URL("../demo/families/fernditch-german.yaml", import.meta.url), "utf8"),
  );
  const varieties = rows
    .filter((row) => row.Brand === "Fernditch")
    .map((row) => {
      const { id, name, text } = row.family;
      const [latin, sow] = [row.family.latin ?? "", row.family.sow ?? ""];
      const [germanName = "", germanText = ""] = german[id] ?? [];
      const months = sow
        .split(";")
        .map((month) => month.trim())
        .filter(Boolean);
      const no = row["Maker's no"] || `FE-${row["Article no"].slice(3)}`;
      return [
        `  <fd:variety no="${no}" trade="yes">`,
        `    <fd:name xml:lang="en">${xml(name)}</fd:name>`,
        `    <fd:name xml:lang="de">${xml(germanName)}</fd:name>`,
        ...(latin === "" ? [] : [`    <fd:botanical>${xml(latin)}</fd:botanical>`]),
        `    <fd:text xml:lang="en"><![CDATA[<p>${text}</p>]]></fd:text>`,
        `    <fd:text xml:lang="de"><![CDATA[<p>${germanText}</p>]]></fd:text>`,
        ...(months.length === 0
          ? []
          : [`    <fd:sow>${months.map((month) => `<fd:month>${month}</fd:month>`).join("")}</fd:sow>`]),
        "  </fd:variety>",
      ].join("\n");
    });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    "<!-- Fernditch Seeds, catalogue for the trade -->",
    '<fd:catalogue xmlns:fd="https://fernditch.example/catalogue" season="2027">',
    "  <fd:house><fd:town>Fernditch</fd:town><fd:currency>GBP</fd:currency></fd:house>",
    ...varieties,
    '  <fd:variety no="FE-2190" trade="no">',
    "    <fd:name xml:lang=\"en\">Radish 'Trial 7'</fd:name>",
    "  </fd:variety>",
    "</fd:catalogue>",
    "",
  ].join("\n");
};

/** Windows-1252, which has each of these letters at the place of Latin-1. */
const latin1 = (text) => Buffer.from(text, "latin1");

/** The warehouse's stock of the day: semicolons, decimal commas, by barcode. */
export const stockOfTheDay = (rows, hash, gtin) => {
  const lines = rows
    .filter((row) => /^\d{13}$/.test(row.Barcode) && !row.family.digital)
    .map((row) => {
      const style = hash(`${row["Article no"]} today`);
      const before = Number(row["In stock"]);
      const now = before === 0 ? (style % 3 === 0 ? 12 : 0) : Math.max(0, before - (style % 4));
      const shelf = `${"ABCDEFGH"[style % 8]}${(style % 40) + 1}`;
      const due = now === 0 && style % 2 === 0 ? "15.02.2027" : "";
      const weight = row.family.kg === undefined ? "" : String(row.family.kg).replace(".", ",");
      const goods = row.Title.replace(/\u00a0/g, " ")
        .trim()
        .slice(0, 28);
      return [row.Barcode, goods, shelf, weight, now, due].join(";");
    });
  return latin1(
    [
      "Barcode;Goods;Shelf;kg;On hand;Due",
      ...lines,
      `${gtin(99999)};Returned goods, Büro;Z1;;3;`,
      `${gtin(99998)};Café table, shop floor;Z1;14,2;1;`,
    ].join("\r\n") + "\r\n",
  );
};

/** What the copywriter wrote for one channel alone: tabs and UTF-16, as a spreadsheet saves "Unicode text". */
export const channelWords = () => {
  const rows = [
    ["Article", "Headline", "Words"],
    [
      "BC-1701-10",
      "",
      "Ten cages of hardwood and gauze, to bring a new queen to her colony. A plug of candy lets the bees free her in their own time.",
    ],
    [
      "BC-1701-50",
      "",
      "Fifty cages of hardwood and gauze, for breeders and clubs. A plug of candy lets the bees free each queen in their own time.",
    ],
    ["BC-5205", "Honey refractometer with calibration oil", ""],
    ["BC-1402", "Bee brush of real horsehair", ""],
    ["BC-3103", "Hand trowel of copper bronze, never rusts", ""],
    ["BC-1603", "Honey strainer, two sieves – coarse and fine", ""],
    ["BC-5201", "Steam wax melter", ""],
  ];
  return Buffer.from(`\ufeff${rows.map((cells) => cells.join("\t")).join("\r\n")}\r\n`, "utf16le");
};
