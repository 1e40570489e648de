import { checkDigit } from "../../src/core/values/gtin.js";
import { write } from "./run.js";

/** A barcode of the range for examples. */
export const gtinOf = (number: number): string => {
  const digits = `9524000${String(number).padStart(5, "0")}`;
  return digits + String(checkDigit(digits));
};

export const goodsHeader = "Art,Parent,Title,Price,Stock,EAN,Size,Weight,Pictures,Section";

/** One right row of goods, in the order of {@link goodsHeader}. */
export const goodsRow = (number: number): readonly string[] => [
  `G-${number}`,
  `F-${Math.floor(number / 4)}`,
  `Oak Stool ${number}`,
  `${10 + (number % 90)}.50`,
  String(number % 70),
  gtinOf(number),
  `size ${number % 4}`,
  `${1 + (number % 9)}.25`,
  `https://shop.example/${number}.jpg`,
  "Seating > Stools",
];

export const goodsCsv = (
  count: number,
  change: (row: string[], number: number) => void = () => undefined,
): string => {
  const lines = Array.from({ length: count }, (_, number) => {
    const row = [...goodsRow(number)];
    change(row, number);
    return row.join(",");
  });
  return `${goodsHeader}\n${lines.join("\n")}\n`;
};

const source = `layer: shop
units: { weight: kg }
columns:
  sku: Art
  group: Parent
  name: Title
  price: Price
  quantity: Stock
  gtin: EAN
  size: Size
  weight: Weight
  images: Pictures
  category: Section
`;

/** Gives a workspace a source for such goods, and its layer. */
export const withGoodsSource = (shop: string, layers = "[shop]"): void => {
  write(shop, "sources/goods.yaml", source);
  write(
    shop,
    "lexicant.yaml",
    `shop: Brindlecote\nlanguage: en\ncurrency: GBP\nlayers: ${layers}\nchannels: []\n`,
  );
};
