import { zipSync, strToU8, type Zippable } from "fflate";
import iconv from "iconv-lite";
import { sized } from "./runs.js";

/** A file that somebody sends, and what has to be said of it. */
export interface HostileFile {
  readonly name: string;
  readonly file: string;
  make(): Buffer;
  /** What the answer has to say. */
  readonly says: RegExp;
  readonly exit?: number;
  /** Whether it could hang or burst the program: then it is held in a process of its own. */
  readonly isBomb?: true;
}

const repeated = (text: string, count: number): string => text.repeat(count);

/** A workbook of one sheet; parts can be replaced. */
export const workbook = (rows: string, parts: Readonly<Record<string, string>> = {}): Buffer => {
  const all: Record<string, string> = {
    "[Content_Types].xml":
      '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/><Override PartName="/xl/sharedStrings.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sharedStrings+xml"/></Types>',
    "_rels/.rels":
      '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>',
    "xl/workbook.xml":
      '<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Goods" sheetId="1" r:id="rId1"/></sheets></workbook>',
    "xl/_rels/workbook.xml.rels":
      '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/sharedStrings" Target="sharedStrings.xml"/></Relationships>',
    "xl/worksheets/sheet1.xml": `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows}</sheetData></worksheet>`,
    ...parts,
  };
  const zipped: Zippable = Object.fromEntries(
    Object.entries(all).map(([name, text]) => [name, strToU8(text)]),
  );
  return Buffer.from(zipSync(zipped, { level: 6 }));
};

const inline = (text: string): string => `<c t="inlineStr"><is><t>${text}</t></is></c>`;
const head = `<row r="1">${inline("SKU")}${inline("Name")}</row>`;
const strings = (items: string): Readonly<Record<string, string>> => ({
  "xl/sharedStrings.xml": `<sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">${items}</sst>`,
});

const xmlIn = (encoding: string, name: string): Buffer =>
  iconv.encode(
    `<?xml version="1.0" encoding="${encoding}"?><goods><product><sku>E-1</sku><name>${name}</name></product><product><sku>E-2</sku><name>b</name></product></goods>`,
    encoding,
  );

export const hostileFiles: readonly HostileFile[] = [
  {
    name: "XML in an encoding that nobody knows",
    file: "odd.xml",
    make: () =>
      Buffer.from('<?xml version="1.0" encoding="x-hive-5"?><g><p><sku>1</sku></p><p><sku>2</sku></p></g>'),
    says: /encoding "x-hive-5"/,
    exit: 2,
  },
  { name: "XML in KOI8-R", file: "koi.xml", make: () => xmlIn("koi8-r", "Улей"), says: /2 added|2 read/ },
  {
    name: "XML in Shift_JIS",
    file: "sjis.xml",
    make: () => xmlIn("shift_jis", "蜂箱"),
    says: /2 added|2 read/,
  },
  {
    name: "XML nested 23,000 deep",
    isBomb: true,
    file: "deep.xml",
    make: () => Buffer.from(repeated("<a>", 23_000) + repeated("</a>", 23_000)),
    says: /nest deeper/,
  },
  {
    name: "XML nested 400,000 deep and never closed",
    isBomb: true,
    file: "deeper.xml",
    make: () => Buffer.from(repeated("<a>", 400_000)),
    says: /nest deeper/,
  },
  {
    name: "XML with a million attributes in one element",
    isBomb: true,
    file: "attributes.xml",
    make: () =>
      Buffer.from(`<g><p ${Array.from({ length: 300_000 }, (_, at) => `a${at}="1"`).join(" ")}/><p/></g>`),
    says: /error/,
  },
  {
    name: "JSON with half a megabyte of escapes in a key",
    isBomb: true,
    file: "escapes.json",
    make: () => Buffer.from(`[{"sku":"1","${repeated("\\u0041", 130_000)}":"x"},{"sku":"2"}]`),
    says: /error|added/,
  },
  {
    name: "JSON with an open key of escapes",
    isBomb: true,
    file: "open.json",
    make: () => Buffer.from(`{"${repeated('\\"', 400_000)}`),
    says: /error/,
  },
  {
    name: "JSON nested 200,000 deep",
    isBomb: true,
    file: "deep.json",
    make: () => Buffer.from(`[{"sku":"1","x":${repeated("[", 200_000)}${repeated("]", 200_000)}}]`),
    says: /nest deeper/,
  },
  {
    name: "a JSON line nested 200,000 deep",
    isBomb: true,
    file: "deep.jsonl",
    make: () =>
      Buffer.from(`{"sku":"1","x":${repeated('{"a":', 100_000)}1${repeated("}", 100_000)}}\n{"sku":"2"}\n`),
    says: /nest(?:s|ed)? (?:deeper|too)|rejected/,
  },
  {
    name: "a JSON list of 14 MB without a record",
    isBomb: true,
    file: "numbers.json",
    make: () => Buffer.from(`[${repeated("1234567,", 1_800_000)}1]`),
    says: /^(?!.*quote).*(?:no |error)/s,
  },
  {
    name: "a long CSV file in which no quote is closed",
    isBomb: true,
    file: "rejected.csv",
    make: () => Buffer.from(`SKU,Name,Price\n${repeated(',"stray" quote,1\n', sized(400_000))}`),
    says: /quote.*row 2/,
  },
  {
    name: "a workbook with 3 kB of sheet tags",
    isBomb: true,
    file: "sheets.xlsx",
    make: () => workbook(head, { "xl/workbook.xml": `<workbook><sheets>${repeated("<sheet ", 60_000)}` }),
    says: /error/,
  },
  {
    name: "a workbook whose sheet begins with 300 kB of col tags",
    isBomb: true,
    file: "cols.xlsx",
    make: () =>
      workbook(head, {
        "xl/worksheets/sheet1.xml": `<worksheet><cols>${repeated("<col ", 60_000)}</cols><sheetData>${head}</sheetData></worksheet>`,
      }),
    says: /error/,
  },
  {
    name: "a workbook with millions of shared strings",
    isBomb: true,
    file: "strings.xlsx",
    make: () => workbook(head, strings(repeated("<si/>", 2_100_000))),
    says: /error/,
  },
  {
    name: "a workbook with one long string in many cells",
    isBomb: true,
    file: "long.xlsx",
    make: () =>
      workbook(
        head +
          Array.from(
            { length: 3000 },
            (_, at) => `<row r="${at + 2}">${repeated('<c t="s"><v>0</v></c>', 40)}</row>`,
          ).join(""),
        strings(`<si><t>${repeated("x", 5_000_000)}</t></si>`),
      ),
    says: /error/,
  },
  {
    name: "a workbook whose sheet is cut off",
    file: "cut.xlsx",
    make: () =>
      workbook("", {
        "xl/worksheets/sheet1.xml": `<worksheet><sheetData>${head}<row r="2">${inline("C-1")}${inline("one")}</row><row r="3"><c t="inl`,
      }),
    says: /error/,
    exit: 2,
  },
  {
    name: "a workbook whose strings are cut off",
    file: "cut-strings.xlsx",
    make: () =>
      workbook(
        `<row r="1"><c t="s"><v>0</v></c><c t="s"><v>1</v></c></row><row r="2"><c t="s"><v>2</v></c><c t="s"><v>3</v></c></row>`,
        {
          "xl/sharedStrings.xml": "<sst><si><t>SKU</t></si><si><t>Name</t></si><si><t>C-1</t></si><si><t>on",
        },
      ),
    says: /error/,
    exit: 2,
  },
  {
    name: "a workbook that points at strings that are not there",
    file: "no-strings.xlsx",
    make: () =>
      workbook(
        `${head}<row r="2"><c t="s"><v>77</v></c><c t="s"><v>3</v></c></row>`,
        strings("<si><t>a</t></si>"),
      ),
    says: /error/,
    exit: 2,
  },
  {
    name: "very many blank rows behind a table",
    isBomb: true,
    file: "blank.xlsx",
    make: () =>
      workbook(
        `${head}<row r="2">${inline("B-1")}${inline("one")}</row>${Array.from({ length: sized(250_000) }, (_, at) => `<row r="${at + 3}"/>`).join("")}`,
      ),
    says: /1 added|nothing but an SKU/,
  },
  {
    name: "very many short rows of CSV",
    isBomb: true,
    file: "short.csv",
    make: () => Buffer.from(`SKU,Name\n${repeated("x\n", sized(250_000))}`),
    says: /rejected/,
  },
  {
    name: "very many blank rows of CSV",
    isBomb: true,
    file: "blanks.csv",
    make: () => Buffer.from(`SKU,Name\nB-2,one\n${repeated("\n", sized(600_000))}`),
    says: /1 added/,
  },
  {
    name: "600,000 columns",
    isBomb: true,
    file: "columns.csv",
    make: () => Buffer.from(`SKU,${Array.from({ length: 600_000 }, (_, at) => at).join(",")}\nA,1\n`),
    says: /error/,
  },
  {
    name: "a JSON record with very many keys",
    isBomb: true,
    file: "keys.json",
    make: () =>
      Buffer.from(
        `[{"sku":"1",${Array.from({ length: sized(200_000) }, (_, at) => `"k${at}":1`).join(",")}}]`,
      ),
    says: /error/,
  },
  {
    name: "names of the language as columns",
    file: "names.csv",
    make: () =>
      Buffer.from(
        "sku,name,constructor,toString,__proto__,hasOwnProperty\nL-1,one,a,b,c,d\nL-2,two,a,b,c,d\n",
      ),
    says: /2 added/,
  },
  {
    name: "names of the language as keys of JSON",
    file: "names.json",
    make: () =>
      Buffer.from(
        '[{"sku":"L-3","name":"x","__proto__":"a","constructor":{"name":"b"},"toString":[1,2]},{"sku":"L-4","name":"y"}]',
      ),
    says: /2 added/,
  },
  {
    name: "names of the language as elements of XML",
    file: "names.xml",
    make: () =>
      Buffer.from(
        "<g><p><sku>L-5</sku><name>x</name><constructor>a</constructor><__proto__>b</__proto__></p><p><sku>L-6</sku><name>y</name><toString>c</toString></p></g>",
      ),
    says: /2 added/,
  },
];
