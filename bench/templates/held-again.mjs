// @ts-nocheck -- the types of exceljs do not know the rules of cells
/** Three more, made when the first six had been measured, and measured once before anybody looked. */
import ExcelJS from "exceljs";
import { fieldsOf, truthOf } from "./concepts.mjs";
import { colour, columnsOf, csv, letter, save } from "./styles.mjs";

/** German: codes alone in the file, all else in a table of its own, with kinds in words. */
const lerchenau = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "maker",
      "part",
      "barcode",
      "price",
      "stock",
      "state",
      "hue",
      "size",
      "stuff",
      "weight",
      "height",
      "pictures",
      "points",
      "origin",
      "hazard",
      "warranty",
      "published",
    ],
    {
      language: "de",
      seed: 503,
      code: "capitals",
      prefix: "L",
      needsFrom: ["required", "recommended", "optional"],
    },
  );
  const columns = columnsOf(fields);
  const need = { required: "Pflicht", recommended: "Empfohlen", optional: "Optional" };
  const kind = (field) =>
    ({
      text: "Text",
      money: "Betrag",
      decimal: "Dezimalzahl",
      measure: "Dezimalzahl",
      integer: "Ganzzahl",
      date: "Datum",
      url: "URL",
      gtin: "EAN",
      choice: "Liste",
      "yes-no": "Ja/Nein",
    })[field.kind];
  const format = (field) =>
    field.kind === "money"
      ? "2 Nachkommastellen"
      : field.kind === "measure"
        ? `${field.decimals} Nachkommastellen`
        : field.kind === "date"
          ? "JJJJ-MM-TT"
          : "";
  const guide = [
    [
      "Feldname",
      "Bezeichnung",
      "Typ",
      "Format",
      "Max. Länge",
      "Erfordernis",
      "Mindestwert",
      "Höchstwert",
      "Zulässige Werte",
    ],
    ...fields.map((field) => [
      field.max_items ? `${field.code}_1` : field.code,
      field.label,
      kind(field),
      format(field),
      field.max_length ?? "",
      need[field.need],
      field.min ?? "",
      field.max ?? "",
      field.kind === "yes-no" ? "" : (field.values ?? []).join(", "),
    ]),
  ];
  return {
    name: "lerchenau",
    language: "de",
    files: [
      await save(folder, "import.csv", csv([columns.map(({ code }) => code)], ";")),
      await save(folder, "felder.csv", csv(guide, ";")),
    ],
    fields: fields.map((field) =>
      truthOf({ ...field, ...(field.kind === "yes-no" ? { values: undefined } : {}) }),
    ),
  };
};

/** French: notes on the headings say everything; a star is a must, and a line below the table says so. */
const soulanges = async (folder) => {
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
      "shade",
      "size",
      "weight",
      "depth",
      "pictures",
      "words",
      "ages",
      "battery",
      "days",
      "care",
    ],
    { language: "fr", seed: 509, code: "snake", prefix: "so", needsFrom: ["required", "optional"] },
  );
  const columns = columnsOf(fields, (label, at) => `${label} n° ${at}`);
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Saisie");
  sheet.getCell("A1").value = "Soulanges : feuille de saisie";
  sheet.getCell("A2").value = "* champ obligatoire";
  const say = (field) => {
    if (field.values) return "À choisir dans la liste.";
    if (field.kind === "text") return `Texte limité à ${field.max_length} caractères.`;
    if (field.kind === "integer") return `Un nombre entier de ${field.min} à ${field.max}.`;
    if (field.kind === "money") return "Prix TTC, avec 2 décimales.";
    if (field.kind === "measure")
      return `Nombre, ${field.decimals} décimale${field.decimals === 1 ? "" : "s"}.`;
    if (field.kind === "date") return "Au format JJ/MM/AAAA.";
    return "Lien complet (https).";
  };
  columns.forEach(({ field, label, item }, at) => {
    const cell = sheet.getCell(4, at + 1);
    cell.value = `${label}${field.need === "required" && !item ? " *" : ""}`;
    cell.note = say(field);
    cell.fill = colour("FFE2EFDA");
    if (field.values)
      sheet.dataValidations.add(`${letter(at + 1)}5:${letter(at + 1)}800`, {
        type: "list",
        allowBlank: true,
        formulae: [`"${field.values.join(",")}"`],
      });
  });
  return {
    name: "soulanges",
    language: "fr",
    files: [await save(folder, "soulanges.xlsx", book)],
    fields: fields.map(({ code: _, ...field }) => truthOf(field)),
  };
};

/** Spanish: groups over labels over codes; a sheet of rules with yes and no; lists under their columns' names. */
const almendral = async (folder) => {
  const fields = fieldsOf(
    [
      "corner",
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
      "capacity",
      "pictures",
      "points",
      "link",
      "tax",
      "season",
      "family",
      "axis",
    ],
    { language: "es", seed: 521, code: "camel", prefix: "a", needsFrom: ["required", "optional"] },
  );
  const columns = columnsOf(fields, undefined, (code, at) => `${code}${at}`);
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Plantilla");
  for (const [name, from, to] of [
    ["Datos básicos", 1, 6],
    ["Precio y existencias", 7, 9],
    ["Características", 10, columns.length],
  ]) {
    sheet.getCell(1, from).value = name;
    sheet.mergeCells(1, from, 1, to);
  }
  columns.forEach(({ label, code }, at) => {
    sheet.getCell(2, at + 1).value = label;
    sheet.getCell(3, at + 1).value = code;
  });
  const rules = book.addWorksheet("Reglas");
  rules.addRow(["Campo", "Obligatorio", "Regla"]);
  for (const field of fields) {
    const rule =
      {
        text: `Texto, ${field.max_length} caracteres como máximo`,
        money: "Importe con dos decimales",
        measure: `Número con ${field.decimals} decimales`,
        integer: `Entero, entre ${field.min} y ${field.max}`,
        decimal: `Número entre ${field.min} y ${field.max}, con ${field.decimals} decimal`,
        url: "Enlace completo",
        gtin: "EAN con dígito de control",
      }[field.kind] ?? "Véase la hoja Listas";
    rules.addRow([
      field.max_items ? `${field.code}1` : field.code,
      field.need === "required" ? "Sí" : "No",
      rule,
    ]);
  }
  const lists = book.addWorksheet("Listas");
  fields
    .filter(({ values }) => values)
    .forEach((field, at) =>
      [field.label, ...field.values].forEach((value, row) => (lists.getCell(row + 1, at + 1).value = value)),
    );
  return {
    name: "almendral",
    language: "es",
    files: [await save(folder, "almendral.xlsx", book)],
    fields: fields.map((field) => truthOf(field)),
  };
};

export const heldAgain = { lerchenau, soulanges, almendral };
