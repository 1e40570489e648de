// @ts-nocheck -- the types of exceljs do not know the rules of cells
/** Six templates that nobody looked at while the reader was made: other shapes, other words. */
import ExcelJS from "exceljs";
import { fieldsOf, truthOf } from "./concepts.mjs";
import { colour, columnsOf, csv, exampleOf, letter, save } from "./styles.mjs";

/** German: merged groups, labels, a row of hints, an example in grey; red letters are a must; lists by range on a hidden sheet. */
const schilfau = async (folder) => {
  const fields = fieldsOf(
    [
      "corner",
      "sku",
      "title",
      "text",
      "brand",
      "maker",
      "barcode",
      "price",
      "saleprice",
      "salefrom",
      "saleuntil",
      "stock",
      "state",
      "hue",
      "size",
      "stuff",
      "weight",
      "width",
      "height",
      "depth",
      "pictures",
      "points",
      "battery",
      "carriage",
      "warranty",
    ],
    {
      language: "de",
      seed: 211,
      code: "snake",
      prefix: "sa",
      needsFrom: ["required", "optional", "optional"],
    },
  );
  const columns = columnsOf(fields, (label, at) => `${label} (${at})`);
  const book = new ExcelJS.Workbook();
  const hints = book.addWorksheet("Hinweise");
  for (const text of [
    "Schilfau – Artikelliste",
    "Spalten mit roter Schrift sind Pflichtfelder, alle übrigen sind freiwillig.",
    "Bitte die Kopfzeilen nicht verändern.",
  ])
    hints.addRow([text]);
  const sheet = book.addWorksheet("Artikel");
  const lists = book.addWorksheet("Auswahl", { state: "hidden" });
  for (const [name, from, to] of [
    ["Grunddaten", 1, 7],
    ["Preise und Bestand", 8, 12],
    ["Eigenschaften", 13, columns.length],
  ]) {
    sheet.getCell(1, from).value = name;
    sheet.mergeCells(1, from, 1, to);
    sheet.getCell(1, from).fill = colour("FFDDE8CB");
  }
  const hint = (field) => {
    const said = [];
    if (field.max_length) said.push(`max. ${field.max_length} Zeichen`);
    if (field.kind === "integer") said.push(`ganze Zahl von ${field.min} bis ${field.max}`);
    if (field.kind === "money") said.push("Betrag mit 2 Nachkommastellen");
    if (field.kind === "measure") said.push(`Zahl mit ${field.decimals} Nachkommastellen`);
    if (field.kind === "date") said.push("Datum JJJJ-MM-TT");
    if (field.kind === "url") said.push("vollständige Internetadresse (URL)");
    if (field.kind === "gtin") said.push("8 bis 14 Ziffern mit Prüfziffer");
    if (field.values) said.push("aus der Liste wählen");
    return said.join(", ");
  };
  let at = 0;
  columns.forEach(({ field, label, item }, index) => {
    const head = sheet.getCell(2, index + 1);
    head.value = label;
    head.font =
      field.need === "required" && !item ? { bold: true, color: { argb: "FFC00000" } } : { bold: true };
    sheet.getCell(3, index + 1).value = hint(field);
    sheet.getCell(3, index + 1).font = { italic: true, size: 8 };
    const example = sheet.getCell(4, index + 1);
    example.value = exampleOf({ field, item }, 0);
    example.font = { color: { argb: "FF888888" } };
    if (field.values === undefined) return;
    at++;
    field.values.forEach((value, row) => (lists.getCell(row + 1, at).value = value));
    sheet.dataValidations.add(`${letter(index + 1)}4:${letter(index + 1)}400`, {
      type: "list",
      allowBlank: true,
      formulae: [`Auswahl!$${letter(at)}$1:$${letter(at)}$${field.values.length}`],
    });
  });
  return {
    name: "schilfau",
    language: "de",
    files: [await save(folder, "schilfau.xlsx", book)],
    fields: fields.map(({ code: _, ...field }) => truthOf(field)),
  };
};

/** French: bare codes on the sheet to fill; another sheet tells each in sentences, with O or N for a must; a tree of paths. */
const beauvallon = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "maker",
      "part",
      "price",
      "listprice",
      "stock",
      "state",
      "shade",
      "size",
      "stuff",
      "weight",
      "capacity",
      "power",
      "pictures",
      "words",
      "origin",
      "hazard",
      "days",
      "pack",
      "film",
    ],
    { language: "fr", seed: 223, code: "capitals", prefix: "BV", needsFrom: ["required", "optional"] },
  );
  const columns = columnsOf(fields, undefined, (code, at) => `${code}_${String(at).padStart(2, "0")}`);
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Offres");
  columns.forEach(({ code }, at) => (sheet.getCell(1, at + 1).value = code));
  const guide = book.addWorksheet("Dictionnaire");
  guide.addRow(["Champ", "Libellé", "Obligatoire (O/N)", "Règles"]);
  fields.forEach((field, at) => {
    const said = [];
    if (field.max_length)
      said.push(
        [
          "Texte de {n} caractères maximum.",
          "{n} caractères au plus.",
          "Ne doit pas dépasser {n} caractères.",
        ][at % 3].replace("{n}", field.max_length),
      );
    if (field.kind === "integer") said.push(`Nombre entier compris entre ${field.min} et ${field.max}.`);
    if (field.kind === "money") said.push("Montant avec deux décimales.");
    if (field.kind === "measure")
      said.push(field.decimals === 0 ? "Nombre sans décimales." : `Nombre avec ${field.decimals} décimales.`);
    if (field.kind === "url") said.push("Adresse complète commençant par https.");
    if (field.max_items) said.push(`Jusqu'à ${field.max_items} valeurs, une par colonne.`);
    if (field.values)
      said.push(`Valeurs admises : ${field.values.map((value) => `« ${value} »`).join(", ")}.`);
    guide.addRow([
      field.max_items ? `${field.code}_01` : field.code,
      field.label,
      field.need === "required" ? "O" : "N",
      said.join(" "),
    ]);
  });
  const tree = csv(
    [
      ["code", "chemin"],
      ["J", "Jardin"],
      ["J1", "Jardin > Outils"],
      ["J11", "Jardin > Outils > Bêches"],
      ["J2", "Jardin > Semences"],
      ["A", "Apiculture"],
      ["A1", "Apiculture > Ruches"],
    ],
    ";",
  );
  return {
    name: "beauvallon",
    language: "fr",
    files: [await save(folder, "beauvallon.xlsx", book), await save(folder, "arborescence.csv", tree)],
    categories: 6,
    fields: fields.map((field) => truthOf(field)),
  };
};

/** Spanish: one CSV whose head says all: labels, codes, need, kind with its limit, values with strokes. */
const vallescura = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "barcode",
      "price",
      "saleprice",
      "stock",
      "state",
      "hue",
      "stuff",
      "origin",
      "ages",
      "battery",
      "salefrom",
      "link",
      "tax",
      "family",
    ],
    { language: "es", seed: 227, code: "snake", prefix: "vs" },
  );
  const kind = (field) => {
    if (field.values) return "Lista";
    if (field.kind === "money" || field.kind === "decimal") return `Número (${field.decimals} dec.)`;
    if (field.kind === "integer") return "Entero";
    if (field.kind === "date") return "Fecha (AAAA-MM-DD)";
    if (field.kind === "url") return "URL";
    if (field.kind === "gtin") return "EAN";
    return `Texto (${field.max_length})`;
  };
  const rows = [
    fields.map(({ label }) => label),
    fields.map(({ code }) => code),
    fields.map(
      ({ need }) => ({ required: "Obligatorio", recommended: "Recomendado", optional: "Opcional" })[need],
    ),
    fields.map(kind),
    fields.map(({ values }) => (values ?? []).join("|")),
  ];
  return {
    name: "vallescura",
    language: "es",
    files: [await save(folder, "vallescura.csv", csv(rows, ";"))],
    fields: fields.map(({ min: _, max: __, ...field }) => truthOf(field)),
  };
};

/** English: codes first, then needs, labels and a line of guidance; two lines above; sizes that hang on the department. */
const harrowgill = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "family",
      "axis",
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
      "corner",
      "size",
      "hue",
      "stuff",
      "weight",
      "blade",
      "pictures",
      "points",
      "origin",
      "hazard",
      "author",
      "published",
    ],
    { language: "en", seed: 229, code: "dotted", prefix: "hg" },
  );
  const columns = columnsOf(
    fields,
    (label, at) => `${label} no. ${at}`,
    (code, at) => `${code}.${at}`,
  );
  const say = (field) => {
    if (field.values) return "Pick from the list";
    if (field.kind === "text") return `Free text; must not be longer than ${field.max_length} characters`;
    if (field.kind === "integer") return `Whole number. Least ${field.min}, most ${field.max}`;
    if (field.kind === "money") return "Pounds and pence, e.g. 9.99 (two decimals)";
    if (field.kind === "measure")
      return `${field.decimals === 0 ? "Whole number" : `Number with up to ${field.decimals} decimals`}`;
    if (field.kind === "date") return "Day in the form YYYY-MM-DD";
    if (field.kind === "url") return "Complete web address";
    return "Number under the bars, 8 to 14 digits";
  };
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Harrowgill");
  const lists = book.addWorksheet("_v", { state: "hidden" });
  sheet.getCell("A1").value = "Harrowgill Goods In, sheet of March";
  sheet.getCell("A2").value = "Questions? Ask your account desk before you send this sheet.";
  columns.forEach(({ field, label, code, item }, at) => {
    sheet.getCell(4, at + 1).value = code;
    sheet.getCell(5, at + 1).value = item
      ? "Optional"
      : { required: "Mandatory", recommended: "Desirable", optional: "Optional" }[field.need];
    sheet.getCell(6, at + 1).value = label;
    sheet.getCell(7, at + 1).value = say(field);
  });
  sheet.views = [{ state: "frozen", ySplit: 7 }];
  const column = (id) => letter(columns.findIndex(({ field }) => field.id === id) + 1);
  fields
    .filter(({ values }) => values)
    .forEach((field, index) => {
      field.values.forEach((value, row) => (lists.getCell(row + 1, index + 1).value = value));
      if (field.id === "size") return;
      book.definedNames.add(
        `_v!$${letter(index + 1)}$1:$${letter(index + 1)}$${field.values.length}`,
        `v_${field.id}`,
      );
      sheet.dataValidations.add(`${column(field.id)}8:${column(field.id)}900`, {
        type: "list",
        formulae: [`v_${field.id}`],
      });
    });
  const size = fields.find(({ id }) => id === "size");
  fields
    .find(({ id }) => id === "corner")
    .values.forEach((value, index) => {
      const own = [size.values.slice(0, 4), size.values.slice(2)][index % 2];
      own.forEach((one, row) => (lists.getCell(row + 1, 30 + index).value = one));
      book.definedNames.add(
        `_v!$${letter(30 + index)}$1:$${letter(30 + index)}$${own.length}`,
        `size_${value.replaceAll(" ", "_")}`,
      );
    });
  sheet.dataValidations.add(`${column("size")}8:${column("size")}900`, {
    type: "list",
    formulae: [`INDIRECT("size_"&SUBSTITUTE($${column("corner")}8," ","_"))`],
  });
  sheet.protect("keep", {});
  return {
    name: "harrowgill",
    language: "en",
    files: [await save(folder, "harrowgill.xlsx", book)],
    fields: fields.map((field) => truthOf(field)),
  };
};

/** A schema of XML with named types, nesting and attributes, in German; the tree as JSON of branches in branches. */
const kornfeld = async (folder) => {
  const schema = `<?xml version="1.0" encoding="UTF-8"?>
<xsd:schema xmlns:xsd="http://www.w3.org/2001/XMLSchema" xmlns="urn:kornfeld:ware" targetNamespace="urn:kornfeld:ware" elementFormDefault="qualified">
  <xsd:simpleType name="Kurztext"><xsd:restriction base="xsd:string"><xsd:minLength value="1"/><xsd:maxLength value="90"/></xsd:restriction></xsd:simpleType>
  <xsd:simpleType name="Zustandswort"><xsd:restriction base="xsd:string"><xsd:enumeration value="Neu"/><xsd:enumeration value="Gebraucht"/></xsd:restriction></xsd:simpleType>
  <xsd:simpleType name="Betrag"><xsd:restriction base="xsd:decimal"><xsd:minInclusive value="0"/><xsd:fractionDigits value="2"/></xsd:restriction></xsd:simpleType>
  <xsd:element name="lieferung"><xsd:complexType><xsd:sequence><xsd:element ref="ware" maxOccurs="unbounded"/></xsd:sequence></xsd:complexType></xsd:element>
  <xsd:element name="ware">
    <xsd:complexType>
      <xsd:sequence>
        <xsd:element name="titel" type="Kurztext"/>
        <xsd:element name="beschreibung" minOccurs="0"><xsd:simpleType><xsd:restriction base="xsd:string"><xsd:maxLength value="4000"/></xsd:restriction></xsd:simpleType></xsd:element>
        <xsd:element name="marke" type="xsd:string"/>
        <xsd:element name="zustand" type="Zustandswort"/>
        <xsd:element name="preis"><xsd:complexType><xsd:simpleContent><xsd:extension base="Betrag"><xsd:attribute name="waehrung" use="required"><xsd:simpleType><xsd:restriction base="xsd:string"><xsd:enumeration value="EUR"/><xsd:enumeration value="CHF"/></xsd:restriction></xsd:simpleType></xsd:attribute></xsd:extension></xsd:simpleContent></xsd:complexType></xsd:element>
        <xsd:element name="bestand" type="xsd:nonNegativeInteger"/>
        <xsd:element name="paket" minOccurs="0"><xsd:complexType><xsd:all><xsd:element name="gewicht" type="xsd:decimal"/><xsd:element name="laenge" type="xsd:decimal" minOccurs="0"/></xsd:all></xsd:complexType></xsd:element>
        <xsd:element name="bilder" minOccurs="0"><xsd:complexType><xsd:sequence><xsd:element name="bild" type="xsd:anyURI" maxOccurs="6"/></xsd:sequence></xsd:complexType></xsd:element>
        <xsd:element name="erschienen" type="xsd:date" minOccurs="0"/>
        <xsd:element name="batterie" type="xsd:boolean" minOccurs="0"/>
      </xsd:sequence>
      <xsd:attribute name="nummer" type="xsd:string" use="required"/>
      <xsd:attribute name="herkunft" type="xsd:string"/>
    </xsd:complexType>
  </xsd:element>
</xsd:schema>
`;
  const tree = [
    {
      id: "G",
      name: "Garten",
      children: [
        { id: "G1", name: "Werkzeug", children: [{ id: "G11", name: "Spaten" }] },
        { id: "G2", name: "Saatgut" },
      ],
    },
    { id: "I", name: "Imkerei", children: [{ id: "I1", name: "Beuten" }] },
  ];
  const field = (code, kind, need, more = {}) => ({ code, label: code, kind, need, ...more });
  return {
    name: "kornfeld",
    language: "de",
    files: [
      await save(folder, "kornfeld.xsd", schema),
      await save(folder, "warengruppen.json", JSON.stringify(tree, null, 1)),
    ],
    categories: 6,
    fields: [
      field("nummer", "text", "required"),
      field("herkunft", "text", "optional"),
      field("titel", "text", "required", { max_length: 90 }),
      field("beschreibung", "text", "optional", { max_length: 4000 }),
      field("marke", "text", "required"),
      field("zustand", "choice", "required", { values: ["Neu", "Gebraucht"] }),
      field("preis", "decimal", "required", { decimals: 2, min: 0 }),
      field("waehrung", "choice", "required", { values: ["EUR", "CHF"] }),
      field("bestand", "integer", "required", { min: 0 }),
      field("gewicht", "decimal", "optional"),
      field("laenge", "decimal", "optional"),
      field("bild", "url", "optional", { list: true, max_items: 6 }),
      field("erschienen", "date", "optional"),
      field("batterie", "yes-no", "optional"),
    ],
  };
};

/** English: a bare CSV head, and a table that says what each column must be; the tree as XML of parents. */
const marlpit = async (folder) => {
  const fields = fieldsOf(
    [
      "sku",
      "title",
      "text",
      "brand",
      "maker",
      "barcode",
      "price",
      "stock",
      "state",
      "shade",
      "hue",
      "size",
      "weight",
      "width",
      "height",
      "depth",
      "pictures",
      "points",
      "origin",
      "battery",
      "hazard",
      "days",
      "tax",
      "season",
      "corner",
    ],
    { language: "en", seed: 239, code: "camel", prefix: "m" },
  );
  const columns = columnsOf(fields, undefined, (code, at) => `${code}${at}`);
  const spec = [
    [
      "Attribute",
      "Name",
      "Requirement",
      "Data type",
      "Max length",
      "Min",
      "Max",
      "Occurrences",
      "Values",
      "Remark",
    ],
    ...fields.map((field) => [
      field.code,
      field.label,
      { required: "required", recommended: "recommended", optional: "optional" }[field.need],
      {
        text: "string",
        money: "decimal(2)",
        measure: `decimal(${field.decimals})`,
        decimal: `decimal(${field.decimals})`,
        integer: "integer",
        date: "date",
        url: "url",
        gtin: "gtin",
        choice: "enum",
        "yes-no": "boolean",
      }[field.kind],
      field.max_length ?? "",
      field.min ?? "",
      field.max ?? "",
      field.max_items ?? 1,
      field.kind === "yes-no" ? "" : (field.values ?? []).join(" | "),
      field.unit === undefined ? "" : `in ${field.unit}`,
    ]),
  ];
  const tree = `<?xml version="1.0"?>\n<departments>\n${[
    ["1", "", "Garden"],
    ["2", "1", "Hand tools"],
    ["3", "1", "Seeds"],
    ["4", "2", "Spades"],
    ["5", "", "Bees"],
    ["6", "5", "Smokers"],
  ]
    .map(
      ([id, parent, name]) =>
        `  <department id="${id}"${parent === "" ? "" : ` parent="${parent}"`}><name>${name}</name></department>`,
    )
    .join("\n")}\n</departments>\n`;
  return {
    name: "marlpit",
    language: "en",
    files: [
      await save(folder, "upload.csv", csv([columns.map(({ code }) => code)], ",")),
      await save(folder, "columns.csv", csv(spec)),
      await save(folder, "departments.xml", tree),
    ],
    categories: 6,
    fields: fields.map(({ values, ...field }) =>
      truthOf({ ...field, ...(values === undefined || field.kind === "yes-no" ? {} : { values }) }),
    ),
  };
};

export const held = { schilfau, beauvallon, vallescura, harrowgill, kornfeld, marlpit };
