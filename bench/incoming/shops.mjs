// A tack shop and a pottery, made up: what they have, and how their deliveries go wrong. Each fault says which value a careful
// clerk would settle on, and which would do where it is told that the cell could not be taken.

const checkDigit = (digits) => {
  let sum = 0;
  for (let at = digits.length - 1, weight = 3; at >= 0; at--, weight = 4 - weight)
    sum += Number(digits[at]) * weight;
  return (10 - (sum % 10)) % 10;
};

export const gtin = (number, start = "9524") => {
  const digits = start + String(number).padStart(12 - start.length, "0");
  return digits + checkDigit(digits);
};

const cell = (text) => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
const line = (cells) => cells.map(cell).join(",");

const words = {
  saddlemoor: [
    ["Halter", "Bridle", "Girth", "Rug", "Stirrup", "Bit", "Brush", "Bucket", "Hay net", "Lead rope"],
    ["oak", "black", "havana", "navy"],
    ["pony", "cob", "full", "10-12"],
  ],
  kilnhouse: [
    ["Bowl", "Mug", "Jug", "Plate", "Vase", "Teapot", "Butter dish", "Tile", "Colander", "Crock"],
    ["celadon", "tenmoku", "white", "rust"],
    ["small", "large", "12-10", "set"],
  ],
};

const shop = (name, currency, offset) => {
  const [things, colors, sizes] = words[name];
  const products = Array.from({ length: 320 }, (_, at) => ({
    sku: at % 8 === 7 ? String(at).padStart(6, "0") : `${name[0].toUpperCase()}-${1000 + at}`,
    name: `${things[at % things.length]} ${colors[at % 4]} ${at}`,
    description: `<p>${things[at % things.length]} number ${at}, made by hand.</p>`,
    mpn: String(4000 + at).padStart(7, "0"),
    gtin: gtin(offset + at),
    color: colors[at % 4],
    size: sizes[at % 4],
    price: `${10 + (at % 50)}.50`,
    quantity: String(3 + (at % 20)),
    weight: `${200 + at} g`,
    width: `${10 + (at % 30)} cm`,
    tax_rate: "20",
    images: `https://${name}.example/${at}.jpg`,
    available_from: "2026-12-24",
  }));
  const columns = Object.keys(products[0]);
  return {
    name,
    currency,
    products,
    columns,
    baseSource: `layer: base\ncurrency: ${currency}\ncolumns:\n${columns.map((one) => `  ${one}: ${one}`).join("\n")}\n`,
    baseFile:
      [line(columns), ...products.map((one) => line(columns.map((column) => one[column])))].join("\n") + "\n",
  };
};

export const shops = [shop("saddlemoor", "GBP", 100), shop("kilnhouse", "EUR", 5100)];

const stored = (shop, attribute, product) =>
  attribute === "price" ? `${product.price} ${shop.currency}` : product[attribute];

/** Faults of one cell: the attribute, what stands there, and what is right (`below`: what the catalogue had). */
const cells = (shop) => {
  const sign = shop.currency === "GBP" ? "€" : "£";
  const own = shop.currency === "GBP" ? "£" : "€";
  return [
    ["stock in words", "quantity", "sold out", "below"],
    ["stock below zero", "quantity", "-3", "0"],
    ["stock with a unit", "quantity", "5 pcs", "below"],
    ["stock with a decimal", "quantity", "3.5", "below"],
    ["price with two marks", "price", "12.50.00", "below"],
    ["price on request", "price", "on request", "below"],
    ["price in another currency", "price", `${sign}44.00`, "below"],
    [
      "price in another currency by its code",
      "price",
      `44.00 ${shop.currency === "GBP" ? "SEK" : "USD"}`,
      "below",
    ],
    ["price of nothing", "price", "0.00", "below"],
    ["price below zero", "price", "-12.00", "below"],
    ["price with garbled sign", "price", own === "£" ? "Â£44.00" : "â‚¬44.00", `44.00 ${shop.currency}`],
    ["price as a failed formula", "price", "#N/A", "below"],
    ["two prices in one cell", "price", "12.00 / 14.00", "below"],
    ["weight in millimetres", "weight", "340 mm", "below"],
    ["weight without a unit among some with", "weight", "450", "below"],
    ["weight not known", "weight", "n/a", "below"],
    ["weight of nothing", "weight", "0 g", "below"],
    ["width in kilograms", "width", "2 kg", "below"],
    ["width not a number", "width", "approx. 30", "below"],
    ["tax of two hundred percent", "tax_rate", "200", "below"],
    [
      "barcode with a wrong check digit",
      "gtin",
      (one) => one.gtin.slice(0, -1) + ((Number(one.gtin.at(-1)) + 1) % 10),
      "below",
    ],
    ["barcode as a formula of text", "gtin", (one) => `="${one.gtin}"`, (one) => one.gtin],
    ["barcode with a point", "gtin", (one) => `${one.gtin}.0`, (one) => one.gtin],
    [
      "barcode shortened, all digits there",
      "gtin",
      (one) => `${one.gtin[0]}.${one.gtin.slice(1)}E+12`,
      (one) => one.gtin,
    ],
    ["barcode shortened", "gtin", (one) => `${one.gtin[0]}.${one.gtin.slice(1, 6)}E+12`, "below"],
    ["barcode with a letter", "gtin", (one) => one.gtin.replace(/.$/, "O"), "below"],
    ["barcode of zeros", "gtin", "0000000000000", "below"],
    ["name garbled", "name", "BÃ¼rste groÃŸ", "Bürste groß"],
    ["blank that does not break, garbled", "name", "Brush 500Â\u00a0g", "Brush 500 g"],
    ["text with lost letters", "name", "B\ufffdrste", "below"],
    ["control characters in a text", "name", "Brush\u001b[31m red\u0007", "Brush[31m red"],
    ["HTML with a garbled blank", "description", "<p>500Â&nbsp;g</p>", "<p>500&nbsp;g</p>"],
    [
      "picture with blanks",
      "images",
      "https://p.example/my brush 1.jpg",
      "https://p.example/my%20brush%201.jpg",
    ],
    [
      "pictures with blanks in a list",
      "images",
      "https://p.example/a b.jpg|https://p.example/c.jpg",
      "https://p.example/a%20b.jpg|https://p.example/c.jpg",
    ],
    ["picture that is no address", "images", "brush.jpg", "below"],
    ["day of 1899", "available_from", "1899-12-30", "below"],
    ["day that can be read two ways", "available_from", "03/04/2027", "below"],
    [
      "size that became a day",
      "size",
      (one) => (one.size === "10-12" || one.size === "12-10" ? "10-Dec" : undefined),
      "below",
    ],
    [
      "size that became a day and was another",
      "size",
      (one) => (one.size === "pony" || one.size === "small" ? "2026-10-12 00:00:00" : undefined),
      "below",
    ],
    ["number kept as text by an apostrophe", "quantity", "'7", "7", "quiet"],
  ];
};

/** Thought of when the first ones were settled, and first run after that. */
const further = (shop) => {
  const code = shop.currency;
  return [
    ["price with the other mark", "price", "12,50", `12.50 ${code}`],
    ["price with thousands the other way", "price", "1.234,56", `1234.56 ${code}`],
    ["price with a comma that can be either", "price", "1,399", "below"],
    ["price with an apostrophe between thousands", "price", "1'234.50", `1234.50 ${code}`, "quiet"],
    ["price with a curled apostrophe between thousands", "price", "1’234.50", `1234.50 ${code}`, "quiet"],
    ["price with a computer's noise", "price", "24.900000000000002", `24.90 ${code}`],
    ["price with thousands", "price", "1,250.00", `1250.00 ${code}`, "quiet"],
    ["price with a remark", "price", "12.50 each", "below"],
    ["price with a letter", "price", "12.5O", "below"],
    ["price of more places than can be paid", "price", "12.505", "below"],
    ["price as a range", "price", "12.00-14.00", "below"],
    ["stock over ten", "quantity", ">10", "below"],
    ["stock with a plus", "quantity", "10+", "below"],
    ["stock with a remark", "quantity", "12 (6 reserved)", "below"],
    ["stock yes", "quantity", "yes", "below"],
    ["stock with a point and zeros", "quantity", "12.00", "12", "quiet"],
    ["weight in pounds and ounces", "weight", "1 lb 4 oz", "20 oz", "quiet"],
    ["weight with the other mark", "weight", "2,5 kg", "2.5 kg"],
    ["weight below one with the other mark", "weight", "0,080 kg", "0.08 kg"],
    ["a soft hyphen in a name", "name", "Brush\u00ad red", "Brush red"],
    ["a blank of no width in a name", "name", "Bru\u200bsh red", "Brush red"],
    ["a formula's fault in Dutch", "color", "#WAARDE!", "below"],
    ["a formula's fault in Spanish", "description", "#¡REF!", "below"],
    ["a formula's fault that was typed", "price", "#N/V", "below"],
    ["weight in an unknown unit", "weight", "3 stone", "below"],
    ["width bare", "width", "30", "below"],
    ["width with an inch mark", "width", '12"', "12 in", "quiet"],
    ["width below zero", "width", "-4 cm", "below"],
    [
      "barcode with blanks within",
      "gtin",
      (one) => `${one.gtin.slice(0, 4)} ${one.gtin.slice(4)}`,
      (one) => one.gtin,
      "quiet",
    ],
    ["two barcodes", "gtin", (one) => `${one.gtin}, ${gtin(77)}`, "below"],
    ["barcode of another product", "gtin", () => shop.products[300].gtin, () => shop.products[300].gtin],
    ["a database's word for nothing in a colour", "color", "NULL", "below"],
    ["a word for nothing in a size", "size", "n/a", "below"],
    ["a dash in a colour", "color", "-", "below"],
    ["a word for nothing in a name", "name", "TBC", "below"],
    ["question marks in a colour", "color", "???", "below"],
    ["a failed formula in a text", "color", "#REF!", "below"],
    ["tax as a fraction", "tax_rate", "0.2", "below"],
    ["tax with its sign", "tax_rate", "20%", "20", "quiet"],
    ["day that is none", "available_from", "31.02.2027", "below"],
    ["day as a spreadsheet's number", "available_from", "46380", "below"],
    ["day in words", "available_from", "next week", "below"],
    ["address without its beginning", "images", "www.p.example/1.jpg", "below"],
    ["address with script", "images", "javascript:alert(1)", "below"],
    ["address of the shop's own disk", "images", "C:\\pictures\\1.jpg", "below"],
    ["markup in a colour", "color", "<b>red</b>", "red"],
    ["a formula in a text", "name", "=HYPERLINK(1)", "=HYPERLINK(1)", "quiet"],
  ];
};

const PER_KIND = 3;

/** One file with a fault in a cell here and there. */
const cellDelivery = (shop, kinds, source) => {
  const rows = shop.products.map((one) => ({ ...one }));
  const faults = [];
  let at = 0;
  for (const [kind, attribute, written, right, quiet] of kinds) {
    for (let done = 0; done < PER_KIND; at++) {
      const product = shop.products[at % shop.products.length];
      const text = typeof written === "function" ? written(product) : written;
      if (text === undefined) continue;
      done++;
      rows[at % rows.length][attribute] = text;
      const before = stored(shop, attribute, product);
      const wanted = right === "below" ? before : typeof right === "function" ? right(product) : right;
      faults.push({
        kind,
        attribute,
        sku: product.sku,
        right: [wanted],
        refused: ["", before],
        rows: [(at % rows.length) + 2],
        file: `${source}.csv`,
        quiet: quiet === "quiet",
      });
    }
  }
  return {
    source,
    file: `${source}.csv`,
    yaml: `layer: late\nmode: update\ncurrency: ${shop.currency}\ndecimal_mark: "."\nlist_separator: "|"\ncolumns:\n${shop.columns.map((one) => `  ${one}: ${one}`).join("\n")}\n`,
    content:
      [line(shop.columns), ...rows.map((one) => line(shop.columns.map((column) => one[column])))].join("\n") +
      "\n",
    faults,
  };
};

/** Rows that are broken as rows. */
const rowDelivery = (shop) => {
  const [a, b, c, d, e, f, g, h, i, j] = [3, 23, 43, 63, 83, 103, 123, 143, 163, 183].map(
    (at) => shop.products[at],
  );
  const good = (one, price) => `${one.sku},${one.name},${price},9,`;
  const price = (amount) => `${amount} ${shop.currency}`;
  const lines = ["sku,name,price,quantity,note"];
  const faults = [];
  const add = (text, ...own) => {
    const row = lines.length + 1;
    lines.push(text);
    for (const fault of own) faults.push({ rows: [row], file: "rows.csv", ...fault });
  };
  const was = (kind, one, attribute = "price") => ({
    kind,
    sku: one.sku,
    attribute,
    right: [stored(shop, attribute, one)],
    refused: [""],
  });
  add(good(shop.products[1], "11.00"));
  add(
    `${a.sku},Halter, brown,12.00,4,`,
    was("a comma too many, the last cell blank", a),
    was("a comma too many, the last cell blank", a, "name"),
  );
  add(`${b.sku},${b.name},13.00`, was("a row that is too short", b));
  add(good(c, "14.00"));
  add(good(c, "99.00"), {
    kind: "the same key again",
    sku: c.sku,
    attribute: "price",
    right: [price("14.00")],
    refused: [],
  });
  add(`1.2E+05,Bridle,15.00,2,`, { kind: "a key that a spreadsheet shortened", sku: "1.2E+05", gone: true });
  add(`LAMPS,,,,`, { kind: "a heading among the rows", sku: "LAMPS", gone: true });
  add(`Total,,1204.50,,`, { kind: "a sum below the rows", sku: "Total", gone: true });
  add(`,Nobody,15.00,2,`, { kind: "a row without a key", sku: "", gone: true });
  const zeros = shop.products[7];
  add(
    `${Number(zeros.sku)},${zeros.name},16.00,2,`,
    {
      kind: "a key that lost its zeros",
      sku: zeros.sku,
      attribute: "price",
      right: [price("16.00")],
      refused: [],
    },
    { kind: "a key that lost its zeros, added beside", sku: String(Number(zeros.sku)), gone: true },
  );
  add(`NEW-1,,17.00,2,`, {
    kind: "a new product without a name",
    sku: "NEW-1",
    attribute: "price",
    right: [price("17.00")],
    refused: [""],
  });
  add(good(d, "18.00"));
  // All rows up to the next quote stand in this one's cell: they are told by its row.
  const open = lines.length + 1;
  add(`${e.sku},"5"" nail" long,19.00,2,`, was("a quote that is not doubled", e));
  add(good(f, "20.00"), { ...was("a row that a quote swallowed", f), rows: [open] });
  add(`${g.sku},"Nail 5,21.00,2,`, { ...was("a quote that is not closed", g), rows: [open] });
  add(good(h, "22.00"), { ...was("a row that a quote swallowed", h), rows: [open] });
  add(`${i.sku},"Net",23.00,2,`, {
    ...was("the row that ends an open quote", i),
    rows: [open],
  });
  add(good(j, "24.00"), {
    kind: "the row behind",
    sku: j.sku,
    attribute: "price",
    right: [price("24.00")],
    refused: [stored(shop, "price", j)],
    quiet: true,
  });
  return {
    source: "rows",
    file: "rows.csv",
    yaml: `layer: late\ncurrency: ${shop.currency}\ndecimal_mark: "."\ncolumns:\n  sku: sku\n  name: name\n  price: price\n  quantity: quantity\n`,
    content: lines.join("\n") + "\n",
    faults,
  };
};

/** A supplier's list by barcode and part number, whose numbers lost their zeros. */
const keyDelivery = (shop) => {
  const chosen = [11, 12, 13, 14, 15].map((at) => shop.products[at]);
  const lines = [
    "ean,part,cost",
    ...chosen.map((one) => `${one.gtin},${Number(one.mpn)},4.00`),
    ...[16, 17, 18].map((at) => `,${Number(shop.products[at].mpn)},5.00`),
  ];
  return {
    source: "trade",
    file: "trade.csv",
    yaml: `layer: late\nkey: [gtin, mpn]\nmode: update\ncurrency: ${shop.currency}\ncolumns:\n  gtin: ean\n  mpn: part\n  cost: cost\n`,
    content: lines.join("\n") + "\n",
    faults: [
      ...chosen.map((one, at) => ({
        kind: "a part number without its zeros beside a barcode",
        sku: one.sku,
        attribute: "mpn",
        right: [one.mpn],
        refused: [],
        rows: [at + 2],
        file: "trade.csv",
      })),
      ...[16, 17, 18].map((at, index) => ({
        kind: "a part number without its zeros alone",
        sku: shop.products[at].sku,
        attribute: "cost",
        right: [`5.00 ${shop.currency}`],
        refused: [""],
        rows: [index + 7],
        file: "trade.csv",
      })),
    ],
  };
};

/** Groups in three layouts, with rows of pictures between, heads behind their members, and lists of names. */
const groupDeliveries = (shop) => {
  const x = shop.name[0].toUpperCase();
  const value = (kind, sku, attribute, right, quiet = true) => ({
    kind,
    sku,
    attribute,
    right: [right],
    refused: [],
    rows: [],
    file: "",
    quiet,
  });
  return [
    {
      source: "firsts",
      file: "firsts.csv",
      yaml: "layer: late\ngroups: { layout: first-row, shared: [name] }\nfurther_rows: images\noptions: [{ name: Opt, value: Val }]\ncolumns: { sku: SKU, group: Fam, name: Title, images: Pic }\n",
      content: `Fam,SKU,Title,Opt,Val,Pic\n${x}F,${x}F-1,Cap,Colour,red,https://p.example/1.jpg\n,,,,,https://p.example/2.jpg\n${x}F,${x}F-2,,,blue,\n${x}F,,,,,https://p.example/3.jpg\n${x}F,${x}F-3,,,green,\n`,
      faults: ["red", "blue", "green"].map((color, at) =>
        value("an option behind a row of pictures", `${x}F-${at + 1}`, "color", color),
      ),
    },
    {
      source: "heads",
      file: "heads.csv",
      yaml: "layer: late\ngroups: { layout: own-row, when: 'Kind = \"head\"' }\noptions: [{ name: Opt, value: Val }]\ncolumns: { sku: SKU, group: Fam, name: Title }\n",
      content: `Kind,Fam,SKU,Title,Opt,Val\nitem,${x}H,${x}H-1,Cap,,red\nhead,,${x}H,Cap,Colour,\nitem,${x}H,${x}H-2,Cap,,blue\nitem,${x}H,${x}H-3,Cap,,green\n`,
      faults: ["red", "blue", "green"].map((color, at) =>
        value("an option named on the head's row alone", `${x}H-${at + 1}`, "color", color),
      ),
    },
    {
      source: "lists",
      file: "lists.csv",
      yaml: 'layer: late\nlist_separator: "|"\npairs: [{ name: Names, value: Values }]\ncolumns: { sku: SKU, name: Title }\n',
      content: `SKU,Title,Names,Values\n${x}L-1,Cap,Colour|Size|Material,red||wool\n${x}L-2,Hat,Colour|Size,blue\n${x}L-3,Tie,|Size,stray|long\n`,
      faults: [
        value("lists of names and values with a blank", `${x}L-1`, "material", "wool"),
        value("lists of names and values with a blank", `${x}L-1`, "color", "red"),
        {
          kind: "fewer values than names",
          sku: `${x}L-2`,
          attribute: "color",
          right: ["", "blue"],
          refused: [],
          rows: [3],
          file: "lists.csv",
        },
        {
          kind: "a value without a name",
          sku: `${x}L-3`,
          attribute: "size",
          right: ["long"],
          refused: [],
          rows: [4],
          file: "lists.csv",
        },
      ],
    },
    {
      source: "elements",
      file: "elements.xml",
      yaml: "layer: late\nrecords: item\npairs: [{ name: 'spec/@n', value: spec }]\ncolumns: { sku: '@no', name: title, images: 'img/src', description: text, own_alt: 'img/alt' }\n",
      content: `<list><item no="${x}X-1"><title>Cap</title><spec n="Colour">red</spec><spec n="Material">wool</spec><img><src>https://p.example/1.jpg</src></img><img><src>https://p.example/2.jpg</src><alt>back</alt></img><text>Soft <b>wool</b>.</text></item><item no="${x}X-2"><title>Hat</title><title>Bonnet</title><spec n="Colour">blue</spec></item></list>`,
      faults: [
        value("names and values of repeated elements", `${x}X-1`, "color", "red"),
        value("names and values of repeated elements", `${x}X-1`, "material", "wool"),
        value("text among elements", `${x}X-1`, "description", "Soft <b>wool</b>."),
        {
          kind: "two values where one is due",
          sku: `${x}X-2`,
          attribute: "name",
          right: [""],
          refused: [],
          rows: [2],
          file: "elements.xml",
        },
      ],
    },
  ];
};

export const deliveries = (shop) => [
  cellDelivery(shop, cells(shop), "late"),
  cellDelivery(shop, further(shop), "later"),
  rowDelivery(shop),
  keyDelivery(shop),
  ...groupDeliveries(shop),
];
