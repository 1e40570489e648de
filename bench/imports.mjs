// Imports of every kind at full size, beside reading the same file alone in the same run.
import { createWriteStream, statSync, writeFileSync } from "node:fs";
import { once } from "node:events";
import { join } from "node:path";
import { gtinOf, writeCatalogue } from "./catalogue.mjs";
import { lexicant, measureNode, row } from "./measure.mjs";

const ROWS = Number(process.env.ROWS ?? 1_000_000);
const SHEET_ROWS = Number(process.env.SHEET_ROWS ?? 100_000);
const RECORDS = Number(process.env.RECORDS ?? 200_000);

const columns =
  "Article no|Family|Varies by|Title|Long text|Brand|Maker's no|Barcode|Section|Colour|Size|Material|Price|Offer price|Offer from|Offer until|VAT %|In stock|Back on|Picture|Page|Item weight|Parcel weight|Made in|Status".split(
    "|",
  );

const source = `layer: shop
further_rows: images
currency: GBP
units: { weight: kg, package_weight: kg }
columns:
  sku: '\`Article no\`'
  group: Family
  varies_by: '\`Varies by\`'
  name: Title
  description: '\`Long text\`'
  brand: Brand
  mpn: "{\`Maker's no\`}"
  gtin: Barcode
  category: Section
  color: Colour
  size: Size
  material: Material
  price: Price
  sale_price: '\`Offer price\`'
  sale_from: '\`Offer from\`'
  sale_until: '\`Offer until\`'
  tax_rate: '\`VAT %\`'
  quantity: '\`In stock\`'
  available_from: '\`Back on\`'
  images: Picture
  url: Page
  weight: '\`Item weight\`'
  package_weight: '\`Parcel weight\`'
  country_of_origin: '\`Made in\`'
  status: Status
`;

const workspace = (folder, sources) => {
  const shop = join(folder, `shop-${Object.keys(sources).join("-")}`);
  lexicant(["init", shop]);
  for (const [name, text] of Object.entries(sources))
    writeFileSync(join(shop, "sources", `${name}.yaml`), text);
  const layers = [...new Set(Object.values(sources).map((text) => /^layer: (\S+)/m.exec(text)[1]))];
  writeFileSync(
    join(shop, "lexicant.yaml"),
    `shop: Bench\nlanguage: en\ncurrency: GBP\nlayers: [${layers.join(", ")}]\nchannels: []\n`,
  );
  return shop;
};

const shown = (count) => count.toLocaleString("en");
const rate = (count, { seconds }) => `${shown(Math.round(count / seconds))} rows/s`;
const size = (file) => `${Math.round(statSync(file).size / 1e6)} MB`;

const readAlone = (module, reader, file) =>
  measureNode(undefined, [
    "--input-type=module",
    "-e",
    `import { fileSource } from ${JSON.stringify(new URL("../modules/formats/byte-source.js", import.meta.url).href)};
     import { ${reader} } from ${JSON.stringify(new URL(`../modules/formats/${module}.js`, import.meta.url).href)};
     const table = await ${reader}(await fileSource(${JSON.stringify(file)}, "file"));
     let rows = 0;
     for await (const batch of table.batches) rows += batch.length;
     process.stdout.write(String(rows));`,
  ]);

const writeStock = async (file, count) => {
  const out = createWriteStream(file);
  out.write("Barcode;On hand\n");
  for (let number = 0; number < count; number++)
    if (!out.write(`${gtinOf(number)};${(number * 7) % 90}\n`)) await once(out, "drain");
  out.end();
  await once(out, "finish");
};

const csv = async (folder) => {
  const [first, second, stock] = ["first.csv", "second.csv", "stock.csv"].map((name) => join(folder, name));
  await writeCatalogue(first, ROWS, () => undefined, columns);
  await writeCatalogue(
    second,
    ROWS,
    (goods, number) => number % 100 === 0 && (goods.Price = "1.23"),
    columns,
  );
  await writeStock(stock, Math.min(100_000, ROWS));
  const shop = workspace(folder, {
    shop: source,
    stock: "layer: stock\nkey: gtin\nmode: update\ncolumns:\n  gtin: Barcode\n  quantity: '`On hand`'\n",
  });
  const alone = readAlone("csv-reader", "openCsv", first);
  row(`read ${shown(ROWS)} rows × ${columns.length} of CSV alone (${size(first)})`, alone, rate(ROWS, alone));
  const run = (title, args, count = ROWS) => {
    const measured = lexicant(["-C", shop, "import", ...args]);
    row(
      title,
      measured,
      `${rate(count, measured)}  ${(measured.seconds / alone.seconds).toFixed(1)} × reading`,
    );
  };
  run("import, fresh", [first, "--source", "shop"]);
  run("import the same again", [first, "--source", "shop"]);
  run("import with 1% changed", [second, "--source", "shop"]);
  run("one column of 100,000 by GTIN", [stock, "--source", "stock"], Math.min(100_000, ROWS));
  const listed = lexicant(["-C", shop, "list", "--limit", "1"]);
  row("list them all", listed, rate(ROWS, listed));
  const undone = lexicant(["-C", shop, "undo", "1", "--alone"]);
  row("undo the first import", undone);
};

const xlsx = async (folder) => {
  const { textWorkbook } = await import("../modules/formats/xlsx-writer.js");
  const file = join(folder, "goods.xlsx");
  const out = createWriteStream(file);
  async function* rows() {
    for (let number = 0; number < SHEET_ROWS; number++)
      yield [
        `A-${number}`,
        `Oak Stool ${number}`,
        gtinOf(number),
        "49.00",
        "Seating",
        "oak",
        "Made by hand, one at a time.",
        "4.2",
      ];
  }
  const header = ["Article", "Title", "Barcode", "Price", "Section", "Material", "Text", "Weight"];
  for await (const bytes of textWorkbook("goods", header, rows()))
    if (!out.write(bytes)) await once(out, "drain");
  out.end();
  await once(out, "finish");
  const shop = workspace(folder, {
    goods:
      "layer: goods\nunits: { weight: kg }\ncolumns:\n  sku: Article\n  name: Title\n  gtin: Barcode\n  price: Price\n  category: Section\n  material: Material\n  description: Text\n  weight: Weight\n",
  });
  const alone = readAlone("xlsx-reader", "openXlsx", file);
  row(
    `read ${shown(SHEET_ROWS)} rows × ${header.length} of XLSX alone (${size(file)})`,
    alone,
    rate(SHEET_ROWS, alone),
  );
  const imported = lexicant(["-C", shop, "import", file]);
  row(
    "import",
    imported,
    `${rate(SHEET_ROWS, imported)}  ${(imported.seconds / alone.seconds).toFixed(1)} × reading`,
  );
};

const xml = async (folder) => {
  const file = join(folder, "catalogue.xml");
  const out = createWriteStream(file);
  out.write("<catalogue>\n");
  for (let number = 0; number < RECORDS; number++) {
    const record = `<goods no="A-${number}"><name xml:lang="en">Oak Stool ${number}</name><name xml:lang="de">Eichenhocker ${number}</name><code>${gtinOf(number)}</code><price currency="GBP">49.00</price><text><![CDATA[<p>Made by hand, one at a time.</p>]]></text><picture>https://shop.example/${number}-1.jpg</picture><picture>https://shop.example/${number}-2.jpg</picture></goods>\n`;
    if (!out.write(record)) await once(out, "drain");
  }
  out.end("</catalogue>\n");
  await once(out, "finish");
  const shop = workspace(folder, {
    catalogue:
      "layer: catalogue\nrecords: goods\ncolumns:\n  sku: '`@no`'\n  name: name@en\n  name@de: name@de\n  gtin: code\n  price: price\n  description: text\n  images: picture\n",
  });
  const alone = readAlone("xml-reader", "openXml", file);
  row(`read ${shown(RECORDS)} XML records alone (${size(file)})`, alone, rate(RECORDS, alone));
  const imported = lexicant(["-C", shop, "import", file]);
  row(
    "import",
    imported,
    `${rate(RECORDS, imported)}  ${(imported.seconds / alone.seconds).toFixed(1)} × reading`,
  );
};

export const run = async (folder) => {
  await csv(folder);
  await xlsx(folder);
  await xml(folder);
};
