// @ts-nocheck -- the types of exceljs do not know the rules of cells
/** Templates in ten styles that are looked at while the reader is made; `held.mjs` has those that are not. */
import ExcelJS from "exceljs";
import { mkdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { fieldsOf, truthOf } from "./concepts.mjs";

export const letter = (column) => {
  let text = "";
  for (let rest = column; rest > 0; rest = Math.floor((rest - 1) / 26))
    text = String.fromCharCode(65 + ((rest - 1) % 26)) + text;
  return text;
};

export const colour = (argb) => ({ type: "pattern", pattern: "solid", fgColor: { argb } });

/** A repeated field stands as so many columns; each with its number. */
export const columnsOf = (
  fields,
  number = (label, at) => `${label} ${at}`,
  numberCode = (code, at) => `${code}_${at}`,
) =>
  fields.flatMap((field) =>
    field.max_items === undefined
      ? [{ field, label: field.label, code: field.code }]
      : Array.from({ length: field.max_items }, (_, at) => ({
          field,
          item: at,
          label: number(field.label, at + 1),
          code: numberCode(field.code, at + 1),
        })),
  );

export const save = async (folder, name, content) => {
  await mkdir(folder, { recursive: true });
  if (typeof content === "string" || Buffer.isBuffer(content)) await writeFile(join(folder, name), content);
  else await content.xlsx.writeFile(join(folder, name));
  return name;
};

export const exampleOf = ({ field, item }, at) =>
  item !== undefined && item > 1 ? "" : (field.examples[at] ?? "");

/** What a guide in English says of a field, in one of several wordings. */
export const englishLimits = (field, way) => {
  const said = [];
  const { kind, max_length: length, max_items: items, decimals, min, max } = field;
  if (length !== undefined)
    said.push(
      [
        `Max. ${length} characters.`,
        `Up to ${length} characters long`,
        `Text, no more than ${length} chars`,
        `Maximum length: ${length}`,
      ][way % 4],
    );
  if (items !== undefined)
    said.push(
      [
        `Up to ${items} of them.`,
        `At most ${items} values`,
        `You may give ${items} at most`,
        `Maximum ${items} entries`,
      ][way % 4],
    );
  if (min !== undefined && kind === "integer")
    said.push(
      [
        `A whole number from ${min} to ${max}.`,
        `Whole number between ${min} and ${max}`,
        `Integer, ${min}-${max}`,
        `Digits only, min ${min}, max ${max}`,
      ][way % 4],
    );
  if (kind === "decimal")
    said.push(
      [
        `A number from ${min} to ${max} with ${decimals} decimal.`,
        `Number between ${min} and ${max}, ${decimals} decimal place`,
        `Decimal (${decimals} place), ${min}-${max}`,
        `min ${min}, max ${max}; ${decimals} decimal`,
      ][way % 4],
    );
  if (kind === "money")
    said.push(
      [
        `A number with ${decimals} decimals, such as 12.50.`,
        `Amount in GBP with ${decimals} decimal places`,
        `Price, ${decimals} decimals, point as separator`,
        `Numeric, ${decimals} decimal places`,
      ][way % 4],
    );
  if (kind === "measure")
    said.push(
      [
        `A number in ${field.unit}${decimals === 0 ? ", no decimals" : ` with ${decimals} decimals`}.`,
        `Number, ${decimals === 0 ? "whole" : `${decimals} decimal places`}, unit ${field.unit}`,
        `In ${field.unit}; ${decimals} decimals`,
        `Numeric, ${decimals} decimal places, ${field.unit}`,
      ][way % 4],
    );
  if (kind === "date")
    said.push(
      ["Date as YYYY-MM-DD.", "Format YYYY-MM-DD", "Date (yyyy-mm-dd)", "ISO date: YYYY-MM-DD"][way % 4],
    );
  if (kind === "url")
    said.push(
      ["A full link that begins with https://.", "Web address (URL)", "URL", "Link, starting with http"][
        way % 4
      ],
    );
  if (kind === "gtin")
    said.push(
      [
        "The barcode's 8, 12, 13 or 14 digits.",
        "8 to 14 digits with a valid check digit",
        "GTIN",
        "Digits of the barcode",
      ][way % 4],
    );
  return said.join(" ");
};

const tools = [
  "sku",
  "title",
  "text",
  "brand",
  "maker",
  "barcode",
  "part",
  "price",
  "saleprice",
  "salefrom",
  "saleuntil",
  "stock",
  "state",
  "shade",
  "hue",
  "stuff",
  "weight",
  "width",
  "height",
  "depth",
  "picture",
  "pictures",
  "points",
  "words",
  "origin",
  "battery",
  "hazard",
  "days",
  "warranty",
  "carriage",
  "blade",
];

/** Four header rows (merged groups, labels, codes, needs), named lists on a hidden sheet, a guide on a sheet of its own. */
const saltmarket = async (folder) => {
  const fields = fieldsOf(["corner", ...tools, "family", "axis"], {
    language: "en",
    seed: 11,
    code: "snake",
    prefix: "sm",
  });
  const columns = columnsOf(fields);
  const book = new ExcelJS.Workbook();
  const about = book.addWorksheet("Read me");
  [
    "Saltmarket listing sheet, edition 4",
    "Fill in one row for each item on the sheet Items.",
    "Do not change the headings.",
  ].forEach((text, at) => (about.getCell(at + 1, 1).value = text));
  const sheet = book.addWorksheet("Items");
  const lists = book.addWorksheet("lists", { state: "hidden" });
  sheet.getCell("A1").value = "Saltmarket";
  sheet.getCell("B1").value = "Edition 4. Begin in row 7.";
  const groups = [
    ["Basics", 6],
    ["Price and stock", 7],
    ["Looks", 8],
  ];
  let from = 1;
  for (const [name, count] of groups) {
    sheet.getCell(2, from).value = name;
    sheet.mergeCells(2, from, 2, from + count - 1);
    from += count;
  }
  sheet.getCell(2, from).value = "Details";
  sheet.mergeCells(2, from, 2, columns.length);
  columns.forEach(({ field, label, code, item }, at) => {
    const column = at + 1;
    sheet.getCell(3, column).value = label;
    sheet.getCell(4, column).value = code;
    sheet.getCell(5, column).value =
      item !== undefined && item > 0
        ? "Optional"
        : { required: "Required", recommended: "Recommended", optional: "Optional" }[field.need];
    [5, 6].forEach(
      (row, which) => (sheet.getCell(row + 1, column).value = exampleOf({ field, item }, which)),
    );
  });
  sheet.getCell(6, 1).note = "Example: delete before sending";
  let at = 0;
  for (const field of fields.filter(({ values }) => values !== undefined)) {
    at++;
    lists.getCell(1, at).value = field.label;
    field.values.forEach((value, row) => (lists.getCell(row + 2, at).value = value));
    book.definedNames.add(
      `lists!$${letter(at)}$2:$${letter(at)}$${field.values.length + 1}`,
      `list_${field.id}`,
    );
    const column = columns.findIndex((one) => one.field === field) + 1;
    sheet.dataValidations.add(`${letter(column)}6:${letter(column)}500`, {
      type: "list",
      allowBlank: true,
      formulae: [`list_${field.id}`],
    });
  }
  const guide = book.addWorksheet("Field guide");
  guide.addRow(["Field", "Column heading", "What it means", "Accepted values", "Example", "Need"]);
  fields.forEach((field, index) =>
    guide.addRow([
      field.code,
      field.label,
      `The ${field.label.toLowerCase()} of the item.`,
      field.values === undefined ? englishLimits(field, index) : field.values.join("; "),
      field.examples[0] ?? "",
      field.need[0].toUpperCase() + field.need.slice(1),
    ]),
  );
  return {
    name: "saltmarket",
    language: "en",
    files: [await save(folder, "saltmarket-items.xlsx", book)],
    fields: fields.map((field) => truthOf(field)),
    groups: "yes",
  };
};

/** One header row with rules as cell notes; colours with a legend above say what is needed. */
const reedbank = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "price",
      "stock",
      "state",
      "shade",
      "size",
      "weight",
      "picture",
      "pictures",
      "origin",
      "ages",
      "tax",
      "care",
      "corner",
    ],
    { language: "en", seed: 23, code: "capitals", prefix: "RB" },
  );
  const columns = columnsOf(fields, (label, at) => (at === 1 ? label : `${label} (${at})`));
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Stock list");
  sheet.getCell("A1").value = "Reedbank stock list";
  sheet.getCell("A2").value = "Orange: must be filled";
  sheet.getCell("A2").fill = colour("FFF4B183");
  sheet.getCell("B2").value = "Yellow: should be filled";
  sheet.getCell("B2").fill = colour("FFFFF2CC");
  sheet.getCell("C2").value = "Grey: may be left blank";
  sheet.getCell("C2").fill = colour("FFD9D9D9");
  columns.forEach(({ field, label, item }, at) => {
    const cell = sheet.getCell(4, at + 1);
    cell.value = label;
    cell.fill = colour(
      { required: "FFF4B183", recommended: "FFFFF2CC", optional: "FFD9D9D9" }[item ? "optional" : field.need],
    );
    const rules = [
      `${label}.`,
      englishLimits(field, at),
      field.values === undefined ? "" : `One of: ${field.values.join(", ")}`,
    ]
      .filter(Boolean)
      .join(" ");
    if (!item) cell.note = rules;
    if (field.values !== undefined)
      sheet.dataValidations.add(`${letter(at + 1)}5:${letter(at + 1)}1000`, {
        type: "list",
        allowBlank: true,
        formulae: [`"${field.values.join(",")}"`],
      });
  });
  return {
    name: "reedbank",
    language: "en",
    files: [await save(folder, "reedbank.xlsx", book)],
    fields: fields.map(({ code: _, ...field }) => truthOf(field)),
  };
};

const csvCell = (text, separator) =>
  new RegExp(`["\\n${separator}]`).test(text) ? `"${text.replaceAll('"', '""')}"` : text;
export const csv = (rows, separator = ",", end = "\r\n") =>
  rows.map((row) => row.map((text) => csvCell(String(text), separator)).join(separator) + end).join("");

/** German, semicolons, Windows' letters; labels with stars for what is needed above the codes; lists in files of their own. */
const muehlbach = async (folder) => {
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
      "points",
      "origin",
      "hazard",
      "carriage",
      "corner",
    ],
    {
      language: "de",
      seed: 31,
      code: "camel",
      prefix: "mb",
      needsFrom: ["required", "optional", "optional"],
    },
  );
  const columns = columnsOf(
    fields,
    (label, at) => `${label} ${at}`,
    (code, at) => `${code}${at}`,
  );
  const rows = [
    columns.map(({ field, label, item }) => (field.need === "required" && !item ? `${label}*` : label)),
    columns.map(({ code }) => code),
    columns.map((column) => exampleOf(column, 0).replace(/^(\d+)\.(\d\d)$/, "$1,$2")),
  ];
  const files = [await save(folder, "muehlbach-vorlage.csv", Buffer.from(csv(rows, ";"), "latin1"))];
  for (const field of fields.filter(({ values, kind }) => values !== undefined && kind !== "yes-no"))
    files.push(
      await save(
        folder,
        `Werte ${field.label}.csv`,
        Buffer.from(csv([[field.label], ...field.values.map((value) => [value])], ";"), "latin1"),
      ),
    );
  return {
    name: "muehlbach",
    language: "de",
    files,
    fields: fields.map(({ max_length: _, min: __, max: ___, decimals: ____, values, ...field }) =>
      truthOf({
        ...field,
        ...(field.kind === "yes-no" || values === undefined ? {} : { values }),
        ...(field.kind === "money" ? { decimals: 2 } : {}),
      }),
    ),
  };
};

/** French, tabs: codes, labels, a row that says what is needed, two rows of examples; the tree as indented text. */
const clairpre = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "barcode",
      "price",
      "saleprice",
      "salefrom",
      "saleuntil",
      "stock",
      "state",
      "weight",
      "width",
      "height",
      "depth",
      "pictures",
      "words",
      "link",
      "days",
    ],
    { language: "fr", seed: 41, code: "snake", prefix: "cp" },
  );
  const columns = columnsOf(fields);
  const need = { required: "Obligatoire", recommended: "Recommandé", optional: "Facultatif" };
  const rows = [
    columns.map(({ code }) => code),
    columns.map(({ label }) => label),
    columns.map(({ field, item }) => (item ? need.optional : need[field.need])),
    ...[0, 1].map((at) => columns.map((column) => exampleOf(column, at))),
  ];
  const tree = [
    "Jardin",
    "    Outils",
    "        Bêches",
    "        Sécateurs",
    "    Semences",
    "        Légumes",
    "        Fleurs",
    "Apiculture",
    "    Ruches",
    "    Enfumoirs",
    "Livres",
  ];
  return {
    name: "clairpre",
    language: "fr",
    files: [
      await save(folder, "clairpre.tsv", csv(rows, "\t", "\n")),
      await save(folder, "clairpre-categories.txt", `${tree.join("\n")}\n`),
    ],
    categories: tree.length,
    fields: fields.map(({ max_length: _, min: __, max: ___, values: ____, ...field }) => truthOf(field)),
  };
};

/** Spanish: one header row, the rules in sentences on another sheet, lists beside them; categories as a column a level. */
const rioalto = async (folder) => {
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
      "hue",
      "size",
      "stuff",
      "weight",
      "pictures",
      "points",
      "origin",
      "warranty",
      "tax",
      "published",
      "corner",
    ],
    { language: "es", seed: 53, code: "snake", prefix: "ra" },
  );
  const columns = columnsOf(fields);
  const book = new ExcelJS.Workbook();
  const rules = book.addWorksheet("Instrucciones");
  rules.addRow(["Cómo rellenar la hoja Productos"]);
  rules.addRow([]);
  rules.addRow(["Columna", "Explicación", "¿Obligatorio?"]);
  fields.forEach((field, at) => {
    const said = [];
    if (field.max_length !== undefined)
      said.push([`Máximo ${field.max_length} caracteres.`, `Hasta ${field.max_length} caracteres.`][at % 2]);
    if (field.max_items !== undefined) said.push(`Hasta ${field.max_items} valores.`);
    if (field.kind === "integer") said.push(`Número entero entre ${field.min} y ${field.max}.`);
    if (field.kind === "decimal")
      said.push(`Número de ${field.min} a ${field.max} con ${field.decimals} decimal.`);
    if (field.kind === "money") said.push(`Número con ${field.decimals} decimales.`);
    if (field.kind === "measure") said.push(`Número en ${field.unit} con ${field.decimals} decimales.`);
    if (field.kind === "date") said.push("Fecha en formato AAAA-MM-DD.");
    if (field.kind === "url") said.push("Dirección web (URL).");
    if (field.kind === "gtin") said.push("Código EAN de 8, 12, 13 o 14 dígitos.");
    if (field.values !== undefined) said.push(`Valores permitidos: ${field.values.join(", ")}.`);
    rules.addRow([
      field.label,
      said.join(" "),
      { required: "Sí", recommended: "Recomendado", optional: "No" }[field.need],
    ]);
  });
  const sheet = book.addWorksheet("Productos");
  columns.forEach(({ label }, at) => {
    sheet.getCell(1, at + 1).value = label;
    sheet.getCell(1, at + 1).font = { bold: true };
  });
  const levels = book.addWorksheet("Categorías");
  levels.addRow(["Código", "Nivel 1", "Nivel 2", "Nivel 3"]);
  const tree = [
    ["10", "Jardín"],
    ["1010", "Jardín", "Herramientas"],
    ["101010", "Jardín", "Herramientas", "Palas"],
    ["101020", "Jardín", "Herramientas", "Tijeras"],
    ["1020", "Jardín", "Semillas"],
    ["20", "Apicultura"],
    ["2010", "Apicultura", "Colmenas"],
  ];
  for (const row of tree) levels.addRow(row);
  return {
    name: "rioalto",
    language: "es",
    files: [await save(folder, "rioalto.xlsx", book)],
    categories: tree.length,
    fields: fields.map(({ code: _, ...field }) => truthOf(field)),
  };
};

/** A schema of XML, with a sample. */
const wickerfold = async (folder) => {
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
      "hue",
      "weight",
      "pictures",
      "origin",
      "battery",
      "published",
      "tax",
    ],
    { language: "en", seed: 61, code: "camel", prefix: "w", needsFrom: ["required", "optional"] },
  );
  const type = (field) => {
    const limits = [];
    if (field.max_length !== undefined) limits.push(`<xs:maxLength value="${field.max_length}"/>`);
    if (field.values !== undefined && field.kind !== "yes-no")
      for (const value of field.values) limits.push(`<xs:enumeration value="${value}"/>`);
    if (field.min !== undefined)
      limits.push(`<xs:minInclusive value="${field.min}"/>`, `<xs:maxInclusive value="${field.max}"/>`);
    if (field.decimals !== undefined) limits.push(`<xs:fractionDigits value="${field.decimals}"/>`);
    if (field.kind === "gtin") limits.push(`<xs:pattern value="[0-9]{8,14}"/>`);
    const base =
      {
        integer: "xs:integer",
        money: "xs:decimal",
        decimal: "xs:decimal",
        measure: "xs:decimal",
        date: "xs:date",
        "yes-no": "xs:boolean",
        url: "xs:anyURI",
      }[field.kind] ?? "xs:string";
    return limits.length === 0
      ? { base }
      : {
          inner: `<xs:simpleType><xs:restriction base="${base}">${limits.join("")}</xs:restriction></xs:simpleType>`,
        };
  };
  const elements = fields.map((field) => {
    const { base, inner } = type(field);
    const many = field.max_items === undefined ? "" : ` maxOccurs="${field.max_items}"`;
    const few = field.need === "required" ? "" : ` minOccurs="0"`;
    const doc = `<xs:annotation><xs:documentation>${field.label}</xs:documentation></xs:annotation>`;
    return inner === undefined
      ? `<xs:element name="${field.code}" type="${base}"${few}${many}>${doc}</xs:element>`
      : `<xs:element name="${field.code}"${few}${many}>${doc}${inner}</xs:element>`;
  });
  const schema = `<?xml version="1.0" encoding="UTF-8"?>
<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema" elementFormDefault="qualified">
  <xs:element name="consignment"><xs:complexType><xs:sequence><xs:element name="article" type="Article" maxOccurs="unbounded"/></xs:sequence></xs:complexType></xs:element>
  <xs:complexType name="Article"><xs:sequence>
    ${elements.join("\n    ")}
  </xs:sequence></xs:complexType>
</xs:schema>
`;
  return {
    name: "wickerfold",
    language: "en",
    files: [await save(folder, "wickerfold.xsd", schema)],
    fields: fields.map((field) =>
      truthOf({
        ...field,
        ...(field.kind === "yes-no" ? { values: undefined } : {}),
        kind: { money: "decimal", gtin: "text" }[field.kind] ?? field.kind,
      }),
    ),
  };
};

/** A JSON Schema. */
const larkrise = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "price",
      "saleprice",
      "salefrom",
      "stock",
      "state",
      "hue",
      "size",
      "pictures",
      "words",
      "battery",
      "link",
      "days",
    ],
    { language: "en", seed: 71, code: "camel", prefix: "l", needsFrom: ["required", "optional"] },
  );
  const properties = Object.fromEntries(
    fields.map((field) => {
      const one = { title: field.label };
      if (field.values !== undefined && field.kind !== "yes-no")
        Object.assign(one, { type: "string", enum: field.values });
      else if (field.kind === "integer")
        Object.assign(one, { type: "integer", minimum: field.min, maximum: field.max });
      else if (field.kind === "money") Object.assign(one, { type: "number", multipleOf: 0.01 });
      else if (field.kind === "yes-no") one.type = "boolean";
      else if (field.kind === "date") Object.assign(one, { type: "string", format: "date" });
      else if (field.kind === "url") Object.assign(one, { type: "string", format: "uri" });
      else
        Object.assign(one, {
          type: "string",
          ...(field.max_length === undefined ? {} : { maxLength: field.max_length }),
        });
      const { title, ...item } = one;
      return [
        field.code,
        field.max_items === undefined
          ? one
          : { title, type: "array", maxItems: field.max_items, items: item },
      ];
    }),
  );
  const schema = {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    title: "Larkrise goods",
    type: "array",
    items: {
      type: "object",
      required: fields.filter(({ need }) => need === "required").map(({ code }) => code),
      properties,
    },
  };
  return {
    name: "larkrise",
    language: "en",
    files: [await save(folder, "larkrise.schema.json", JSON.stringify(schema, null, 2))],
    fields: fields.map((field) =>
      truthOf({
        ...field,
        ...(field.kind === "yes-no" ? { values: undefined } : {}),
        need: field.need === "recommended" ? "optional" : field.need,
        kind: field.kind === "money" ? "decimal" : field.kind,
      }),
    ),
  };
};

/** Two workbooks, for two departments, that share most of their columns. */
const twinbridge = async (folder) => {
  const common = ["sku", "title", "text", "brand", "price", "stock", "state", "pictures", "origin"];
  const shared = fieldsOf(common, { language: "en", seed: 83, code: "dotted", prefix: "tb" });
  const own = {
    Tools: fieldsOf(["stuff", "blade", "weight", "warranty"], {
      language: "en",
      seed: 84,
      code: "dotted",
      prefix: "tb",
    }),
    Clothing: fieldsOf(["size", "hue", "shade", "care"], {
      language: "en",
      seed: 85,
      code: "dotted",
      prefix: "tb",
    }),
  };
  const files = [];
  for (const [branch, fields] of Object.entries(own)) {
    const columns = columnsOf([...shared, ...fields]);
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet(branch);
    const lists = book.addWorksheet("Choices");
    let at = 0;
    columns.forEach(({ field, label, code, item }, index) => {
      sheet.getCell(1, index + 1).value =
        `${label}${field.need === "required" && !item ? " (required)" : ""}`;
      sheet.getCell(2, index + 1).value = code;
      if (!item) sheet.getCell(1, index + 1).note = englishLimits(field, index);
      if (field.values === undefined) return;
      at++;
      lists.getCell(1, at).value = label;
      field.values.forEach((value, row) => (lists.getCell(row + 2, at).value = value));
      sheet.dataValidations.add(`${letter(index + 1)}3:${letter(index + 1)}300`, {
        type: "list",
        formulae: [`Choices!$${letter(at)}$2:$${letter(at)}$${field.values.length + 1}`],
      });
    });
    files.push(await save(folder, `twinbridge ${branch.toLowerCase()}.xlsx`, book));
  }
  const need = (field) => ({ ...field, need: field.need === "required" ? "required" : "optional" });
  return {
    name: "twinbridge",
    language: "en",
    files,
    fields: [
      ...shared.map((field) => truthOf(need(field), { scope: "*" })),
      ...Object.entries(own).flatMap(([branch, fields]) =>
        fields.map((field) => truthOf(need(field), { scope: branch })),
      ),
    ],
  };
};

/** Two sheets that could be it, lists that depend on another cell, members and their leader, filled examples. */
const oakhanger = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "family",
      "axis",
      "title",
      "text",
      "brand",
      "price",
      "stock",
      "corner",
      "hue",
      "size",
      "pictures",
      "points",
      "weight",
      "carriage",
    ],
    { language: "en", seed: 97, code: "capitals", prefix: "O" },
  );
  const columns = columnsOf(fields, (label, at) => `${label} #${at}`);
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Fill this in");
  const sample = book.addWorksheet("Filled example");
  for (const [target, rows] of [
    [sheet, 0],
    [sample, 2],
  ]) {
    columns.forEach(({ field, label, item }, at) => {
      target.getCell(1, at + 1).value = label;
      target.getCell(2, at + 1).value = item
        ? "O"
        : { required: "M", recommended: "R", optional: "O" }[field.need];
      for (let row = 0; row < rows; row++)
        target.getCell(row + 3, at + 1).value = exampleOf({ field, item }, row);
    });
  }
  const legend = book.addWorksheet("Legend");
  for (const row of [
    ["M", "mandatory"],
    ["R", "recommended"],
    ["O", "optional"],
  ])
    legend.addRow(row);
  const lists = book.addWorksheet("Data", { state: "veryHidden" });
  const corner = fields.find(({ id }) => id === "corner");
  const column = (id) => letter(columns.findIndex(({ field }) => field.id === id) + 1);
  fields
    .filter(({ values }) => values !== undefined)
    .forEach((field, at) => {
      field.values.forEach((value, row) => (lists.getCell(row + 1, at + 1).value = value));
      if (field.id !== "size")
        sheet.dataValidations.add(`${column(field.id)}3:${column(field.id)}200`, {
          type: "list",
          formulae: [`Data!$${letter(at + 1)}$1:$${letter(at + 1)}$${field.values.length}`],
        });
    });
  const size = fields.find(({ id }) => id === "size");
  corner.values.forEach((value, index) => {
    const name = value.replaceAll(" ", "_");
    const own = index % 2 === 0 ? size.values.slice(0, 3) : size.values.slice(3);
    own.forEach((one, row) => (lists.getCell(row + 1, 20 + index).value = one));
    book.definedNames.add(`Data!$${letter(20 + index)}$1:$${letter(20 + index)}$${own.length}`, name);
  });
  sheet.dataValidations.add(`${column("size")}3:${column("size")}200`, {
    type: "list",
    formulae: [`INDIRECT(SUBSTITUTE(${column("corner")}3," ","_"))`],
  });
  return {
    name: "oakhanger",
    language: "en",
    files: [await save(folder, "oakhanger.xlsx", book)],
    fields: fields.map(({ code: _, min: __, max: ___, max_length: ____, decimals: _____, ...field }) =>
      truthOf(field),
    ),
  };
};

/** A file that was taken once, its report and the export of what is live; categories by parent and child. */
const pebblecombe = async (folder) => {
  const fields = fieldsOf(
    ["sku", "title", "text", "brand", "price", "stock", "state", "corner", "pictures", "weight"],
    { language: "en", seed: 103, code: "snake", prefix: "pc" },
  );
  const columns = columnsOf(fields, undefined, (code, at) => `${code}${at}`);
  const rows = Array.from({ length: 12 }, (_, at) =>
    columns.map(({ field, item }) => {
      if (field.id === "sku") return `BC-${1301 + at}`;
      if (field.id === "title") return `Border spade number ${at + 1}`;
      if (field.id === "price") return `${12 + at}.50`;
      if (field.id === "stock") return String(at * 3);
      return exampleOf({ field, item }, at % 2);
    }),
  );
  const files = [
    await save(folder, "sent-2027-02.csv", csv([columns.map(({ code }) => code), ...rows], ",")),
    await save(
      folder,
      "result-2027-02.csv",
      csv([
        ["line", "pc_sku", "outcome", "reason_no", "reason", "shelf_id"],
        ...rows.map((row, at) => [
          at + 2,
          row[0],
          at === 3 ? "turned away" : "taken",
          at === 3 ? "17" : "",
          at === 3 ? "The text is too short" : "",
          at === 3 ? "" : `SH${9000 + at}`,
        ]),
      ]),
    ),
    await save(
      folder,
      "live-2027-03.csv",
      csv([
        ["shelf_id", "pc_sku", "pc_title", "pc_price", "pc_stock", "shown_since"],
        ...rows
          .filter((_, at) => at !== 3)
          .map((row, at) => [`SH${9000 + at}`, row[0], row[1], row[4], row[5], "2027-02-11"]),
      ]),
    ),
    await save(
      folder,
      "departments.csv",
      csv([
        ["id", "parent_id", "name"],
        ["1", "", "Garden tools"],
        ["2", "", "Beekeeping"],
        ["11", "1", "Spades"],
        ["12", "1", "Shears"],
        ["21", "2", "Smokers"],
        ["3", "", "Seeds"],
        ["4", "", "Books"],
        ["5", "", "Clothing"],
      ]),
    ),
  ];
  return {
    name: "pebblecombe",
    language: "en",
    files,
    categories: 8,
    report: true,
    live: true,
    fields: fields.map(
      ({
        label: _,
        need: __,
        values: ___,
        min: ____,
        max: _____,
        max_length: ______,
        kind,
        decimals,
        unit,
        max_items: items,
        ...field
      }) => ({
        ...truthOf(field),
        kind: { choice: "text", measure: "decimal", money: "decimal" }[kind] ?? kind,
        ...(items === undefined ? {} : { max_items: items }),
      }),
    ),
  };
};

export const styles = {
  saltmarket,
  reedbank,
  muehlbach,
  clairpre,
  rioalto,
  wickerfold,
  larkrise,
  twinbridge,
  oakhanger,
  pebblecombe,
};
