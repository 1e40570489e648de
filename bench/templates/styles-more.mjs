// @ts-nocheck -- the types of exceljs do not know the rules of cells
/** Eight more styles that are looked at: headings in two rows, marks and shorthand, lists in long form, samples, tables away from the corner. */
import ExcelJS from "exceljs";
import { fieldsOf, truthOf } from "./concepts.mjs";
import { colour, columnsOf, csv, exampleOf, letter, save } from "./styles.mjs";

const shorthand = (field) => {
  if (field.values) return "LIST";
  if (field.kind === "text") return `AN${field.max_length}`;
  if (field.kind === "integer") return "N(6)";
  if (field.kind === "money" || field.kind === "measure" || field.kind === "decimal")
    return field.decimals === 0 ? "N(6)" : `N(10,${field.decimals})`;
  if (field.kind === "date") return "YYYY-MM-DD";
  return field.kind === "url" ? "URL" : "GTIN";
};

/** Headings in two rows: most merged downwards, some over several; full and hollow signs with a legend; shorthand for kinds. */
const fernhollow = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "barcode",
      "price",
      "stock",
      "state",
      "shade",
      "stuff",
      "weight",
      "origin",
      "pictures",
      "width",
      "height",
      "depth",
    ],
    { language: "en", seed: 311, code: "snake", prefix: "fh", needsFrom: ["required", "optional"] },
  );
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Goods");
  sheet.getCell("A1").value = "Fernhollow goods sheet";
  sheet.getCell("A2").value = "●";
  sheet.getCell("B2").value = "mandatory";
  sheet.getCell("C2").value = "○";
  sheet.getCell("D2").value = "optional";
  let at = 0;
  const put = (field, heading, count, below) => {
    for (let item = 0; item < count; item++) {
      const column = at + 1 + item;
      if (below === undefined) {
        sheet.getCell(4, column).value = heading;
        sheet.mergeCells(4, column, 5, column);
      } else sheet.getCell(5, column).value = below(item);
      sheet.getCell(6, column).value = field.need === "required" && item === 0 ? "●" : "○";
      sheet.getCell(7, column).value = shorthand(field);
      if (field.values)
        sheet.dataValidations.add(`${letter(column)}8:${letter(column)}99`, {
          type: "list",
          formulae: [`"${field.values.join(",")}"`],
        });
    }
    if (below !== undefined && count > 1) {
      sheet.getCell(4, at + 1).value = heading;
      sheet.mergeCells(4, at + 1, 4, at + count);
    }
    at += count;
  };
  for (const field of fields) {
    if (["width", "height", "depth"].includes(field.id)) continue;
    if (field.max_items) put(field, field.label, field.max_items, (item) => String(item + 1));
    else put(field, field.label, 1);
  }
  const sides = fields.filter(({ id }) => ["width", "height", "depth"].includes(id));
  const from = at;
  for (const field of sides) put(field, undefined, 1, () => field.label);
  sheet.getCell(4, from + 1).value = "Outer size";
  sheet.mergeCells(4, from + 1, 4, from + 3);
  return {
    name: "fernhollow",
    language: "en",
    files: [await save(folder, "fernhollow.xlsx", book)],
    fields: fields.map(({ code: _, min: __, max: ___, unit, ...field }) =>
      truthOf({ ...field, ...(unit === undefined ? {} : { unit }) }),
    ),
  };
};

/** German: rules and stars in the headings themselves, numbers within them; a sheet with Ja and Nein. */
const ostholm = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "barcode",
      "price",
      "listprice",
      "stock",
      "state",
      "hue",
      "stuff",
      "weight",
      "pictures",
      "words",
      "origin",
      "battery",
      "warranty",
    ],
    { language: "de", seed: 317, code: "snake", prefix: "oh", needsFrom: ["required", "optional"] },
  );
  const columns = columnsOf(fields, (label, at) => `${label} ${at} (URL)`);
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Vorlage");
  columns.forEach(({ field, label, item }, at) => {
    const limit = field.max_length ? ` (max. ${field.max_length} Zeichen)` : "";
    sheet.getCell(1, at + 1).value = field.kind === "money" ? `${label} in EUR` : `${label}${limit}`;
    if (field.values)
      sheet.dataValidations.add(`${letter(at + 1)}2:${letter(at + 1)}99`, {
        type: "list",
        formulae: [`"${field.values.join(",")}"`],
      });
    if (item === undefined || item === 0) sheet.getCell(1, at + 1).font = { bold: true };
  });
  const guide = book.addWorksheet("Erläuterungen");
  guide.addRow(["Spalte", "Pflichtfeld?", "Hinweis"]);
  for (const field of fields) {
    const hint =
      {
        integer: `Ganze Zahl zwischen ${field.min} und ${field.max}.`,
        money: "Mit zwei Nachkommastellen.",
        measure: `${field.decimals} Nachkommastellen.`,
        gtin: "EAN mit Prüfziffer.",
        url: `Höchstens ${field.max_items} Bilder.`,
      }[field.kind] ?? "";
    const heading = columns.find((column) => column.field === field);
    const at = columns.indexOf(heading);
    guide.addRow([sheet.getCell(1, at + 1).value, field.need === "required" ? "Ja" : "Nein", hint]);
  }
  return {
    name: "ostholm",
    language: "de",
    files: [await save(folder, "ostholm.xlsx", book)],
    fields: fields.map(({ code: _, label, ...field }) =>
      truthOf({
        ...field,
        label: field.kind === "money" ? `${label} in EUR` : field.max_items ? `${label} (URL)` : label,
      }),
    ),
  };
};

/** French: how often and of what kind in rows of the head; a list of field and value in a file of its own. */
const valmont = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "maker",
      "price",
      "stock",
      "state",
      "hue",
      "stuff",
      "pictures",
      "points",
      "published",
      "hazard",
      "tax",
    ],
    { language: "fr", seed: 331, code: "camel", prefix: "v", needsFrom: ["required", "optional"] },
  );
  const kind = (field) =>
    ({
      text: `texte(${field.max_length})`,
      money: "décimal(2)",
      decimal: `décimal(${field.decimals})`,
      integer: "entier",
      date: "date AAAA-MM-JJ",
      url: "url",
      choice: "liste",
      "yes-no": "oui/non",
    })[field.kind];
  const rows = [
    fields.map(({ code }) => code),
    fields.map(({ label }) => label),
    fields.map((field) => `${field.need === "required" ? 1 : 0}..${field.max_items ?? 1}`),
    fields.map(kind),
  ];
  const values = [
    ["champ", "valeur"],
    ...fields
      .filter(({ values, kind }) => values && kind !== "yes-no")
      .flatMap(({ code, values }) => values.map((value) => [code, value])),
  ];
  return {
    name: "valmont",
    language: "fr",
    files: [
      await save(folder, "modele.csv", csv(rows, ";")),
      await save(folder, "valeurs.csv", csv(values, ";")),
    ],
    fields: fields.map(({ min: _, max: __, ...field }) =>
      truthOf({ ...field, ...(field.kind === "yes-no" ? { values: undefined } : {}) }),
    ),
  };
};

/** Spanish: no template at all, but a sheet with a row for each attribute. */
const pineda = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "barcode",
      "price",
      "stock",
      "state",
      "stuff",
      "weight",
      "origin",
      "days",
      "link",
      "family",
    ],
    { language: "es", seed: 337, code: "capitals", prefix: "P", needsFrom: ["required", "optional"] },
  );
  const kind = (field) =>
    ({
      text: "Texto",
      money: "Decimal (2)",
      measure: `Decimal (${field.decimals})`,
      integer: "Entero",
      url: "URL",
      choice: "Lista",
      gtin: "EAN",
    })[field.kind];
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Especificación");
  sheet.addRow(["Especificación de atributos, edición 3"]);
  sheet.addRow([]);
  sheet.addRow([
    "Atributo",
    "Nombre",
    "Tipo de dato",
    "Longitud máxima",
    "Obligatorio (S/N)",
    "Unidad",
    "Valores permitidos",
    "Descripción",
  ]);
  for (const field of fields)
    sheet.addRow([
      field.code,
      field.label,
      kind(field),
      field.max_length ?? "",
      field.need === "required" ? "S" : "N",
      field.unit ?? "",
      (field.values ?? []).join(" | "),
      field.kind === "integer" ? `De ${field.min} a ${field.max}.` : "",
    ]);
  return {
    name: "pineda",
    language: "es",
    files: [await save(folder, "pineda.xlsx", book)],
    fields: fields.map((field) => truthOf(field)),
  };
};

/** A sample of an RSS feed, and a table that says what its elements must hold. */
const quillmoor = async (folder) => {
  const fields = fieldsOf(["sku", "brand", "barcode", "price", "stock", "state", "hue", "weight"], {
    language: "en",
    seed: 347,
    code: "snake",
    prefix: "q",
  }).map((field) => ({ ...field, code: field.id }));
  const item = (at) =>
    `<item><title>Border spade ${at}</title><link>https://brindlecote.example/${at}</link><description>For narrow beds</description><guid>BC-${at}</guid>${fields.map((field) => `<q:${field.code}>${exampleOf({ field }, at % 2) || "x"}</q:${field.code}>`).join("")}</item>`;
  const feed = `<?xml version="1.0"?><rss version="2.0" xmlns:q="urn:quillmoor:goods"><channel><title>Sample</title><link>https://brindlecote.example/</link><description>Sample</description>${[1, 2, 3].map(item).join("")}</channel></rss>`;
  const spec = [
    ["Element", "Required", "Rules"],
    ...fields.map((field) => [
      `q:${field.code}`,
      field.need === "required" ? "yes" : "no",
      field.values
        ? `One of ${field.values.join(", ")}`
        : field.max_length
          ? `At most ${field.max_length} characters`
          : field.kind === "money"
            ? "Number with 2 decimals"
            : field.kind === "measure"
              ? `Number in ${field.unit}`
              : field.kind === "integer"
                ? `Whole number from ${field.min} to ${field.max}`
                : "GTIN",
    ]),
  ];
  return {
    name: "quillmoor",
    language: "en",
    files: [await save(folder, "sample.xml", feed), await save(folder, "elements.csv", csv(spec))],
    fields: fields.map(({ label: _, decimals, ...field }) =>
      truthOf({
        ...field,
        code: `q:${field.code}`,
        need: field.need === "required" ? "required" : "optional",
        ...(field.kind === "money" ? { decimals } : {}),
      }),
    ),
  };
};

/** A sample of JSON with objects in objects. */
const brackenbury = async (folder) => {
  const goods = [1, 2, 3].map((at) => ({
    id: `BC-${at}`,
    heading: `Border spade ${at}`,
    body: "For narrow beds",
    cost: { amount: 49.5 + at, currency: "GBP" },
    onHand: 10 + at,
    box: { weightKg: 1.9, heightCm: 105 },
    photos: ["https://brindlecote.example/1.jpg", "https://brindlecote.example/2.jpg"],
    giftable: true,
    since: "2027-01-0" + at,
  }));
  const f = (code, kind, more = {}) => ({ code, kind, ...more });
  return {
    name: "brackenbury",
    language: "en",
    files: [await save(folder, "goods.json", JSON.stringify({ goods }, null, 1))],
    fields: [
      f("id", "text"),
      f("heading", "text"),
      f("body", "text"),
      f("amount", "decimal"),
      f("currency", "text"),
      f("onHand", "integer"),
      f("weightKg", "measure", { unit: "kg" }),
      f("heightCm", "measure", { unit: "cm" }),
      f("photos", "url", { list: true }),
      f("since", "date"),
    ],
  };
};

/** Away from the corner, codes alone, needs by the group above; the cells' own rules and their messages say the rest. */
const thistledown = async (folder) => {
  const order = ["required", "recommended", "optional"];
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "maker",
      "price",
      "stock",
      "state",
      "hue",
      "weight",
      "pictures",
      "days",
      "published",
      "care",
      "capacity",
    ],
    { language: "en", seed: 349, code: "snake", prefix: "td" },
  ).sort((a, b) => order.indexOf(a.need) - order.indexOf(b.need));
  const columns = columnsOf(fields);
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Upload");
  [
    "Thistledown",
    "How to use this sheet",
    "1. Fill in the blue cells.",
    "2. Save it.",
    "3. Send it from your account.",
  ].forEach((text, at) => (sheet.getCell(at + 1, 2).value = text));
  const [left, row] = [3, 9];
  const names = { required: "Must be filled", recommended: "Recommended", optional: "Optional" };
  for (const need of order) {
    const own = columns.flatMap(({ field }, at) => (field.need === need ? [at] : []));
    if (own.length === 0) continue;
    sheet.getCell(row - 1, left + own[0]).value = names[need];
    if (own.length > 1) sheet.mergeCells(row - 1, left + own[0], row - 1, left + own.at(-1));
  }
  columns.forEach(({ field, code }, at) => {
    sheet.getCell(row, left + at).value = code;
    const range = `${letter(left + at)}${row + 1}:${letter(left + at)}500`;
    const said = { type: "custom", formulae: ["TRUE"], showInputMessage: true, promptTitle: field.label };
    if (field.values)
      sheet.dataValidations.add(range, { type: "list", formulae: [`"${field.values.join(",")}"`] });
    else if (field.kind === "text")
      sheet.dataValidations.add(range, {
        type: "textLength",
        operator: "lessThanOrEqual",
        formulae: [field.max_length],
      });
    else if (field.kind === "integer")
      sheet.dataValidations.add(range, {
        type: "whole",
        operator: "between",
        formulae: [field.min, field.max],
      });
    else if (field.kind === "date")
      sheet.dataValidations.add(range, {
        type: "date",
        operator: "greaterThan",
        formulae: [new Date("2000-01-01")],
      });
    else if (field.kind === "url")
      sheet.dataValidations.add(range, { ...said, prompt: "A full web address that begins with https://" });
    else
      sheet.dataValidations.add(range, {
        ...said,
        prompt:
          field.kind === "money"
            ? "Price with 2 decimals"
            : `A number with ${field.decimals} decimals, in ${field.unit}`,
      });
  });
  return {
    name: "thistledown",
    language: "en",
    files: [await save(folder, "thistledown.xlsx", book)],
    fields: fields.map(({ label: _, ...field }) => truthOf(field)),
  };
};

/** The colour of the headings, told in words on another sheet; guidance in whole sentences below them. */
const hollowell = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "price",
      "saleprice",
      "stock",
      "state",
      "size",
      "hue",
      "pictures",
      "origin",
      "ages",
      "season",
      "pack",
    ],
    { language: "en", seed: 353, code: "camel", prefix: "h", needsFrom: ["required", "optional"] },
  );
  const columns = columnsOf(
    fields,
    (label, at) =>
      `${label} ${["one", "two", "three", "four", "five", "six", "seven", "eight"][at - 1] === undefined ? at : at}`,
  );
  const book = new ExcelJS.Workbook();
  const about = book.addWorksheet("About");
  for (const text of [
    "Hollowell product intake",
    "Blue headings are compulsory. Grey headings can be left blank.",
  ])
    about.addRow([text]);
  const sheet = book.addWorksheet("Intake");
  const say = (field) => {
    if (field.values) return `Choose from: ${field.values.join(" / ")}.`;
    if (field.kind === "text") return `Keep it to ${field.max_length} characters or fewer.`;
    if (field.kind === "integer")
      return `Enter a whole number, ${field.min} or more and at most ${field.max}.`;
    if (field.kind === "money")
      return "Enter the amount in pounds to 2 decimal places, without a currency sign.";
    return "Paste the full link, starting https://.";
  };
  columns.forEach(({ field, label, item }, at) => {
    const cell = sheet.getCell(1, at + 1);
    cell.value = label;
    cell.fill = colour(field.need === "required" && !item ? "FF2F75B5" : "FFBFBFBF");
    sheet.getCell(2, at + 1).value = say(field);
  });
  return {
    name: "hollowell",
    language: "en",
    files: [await save(folder, "hollowell.xlsx", book)],
    fields: fields.map(({ code: _, min: __, max: ___, ...field }) => truthOf(field)),
  };
};

export const more = { fernhollow, ostholm, valmont, pineda, quillmoor, brackenbury, thistledown, hollowell };
