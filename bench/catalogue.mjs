// Makes a large shop export from the demo shop's: the same goods again and again, each time with numbers of their own.
import { createWriteStream, readFileSync } from "node:fs";
import { once } from "node:events";
import Papa from "papaparse";

const demoExport = new URL("../demo/shop/data/shop-export.csv", import.meta.url);

const checkDigit = (digits) => {
  let sum = 0;
  for (let i = digits.length - 1, weight = 3; i >= 0; i--, weight = 4 - weight)
    sum += Number(digits[i]) * weight;
  return (10 - (sum % 10)) % 10;
};

/** A GTIN-13 of the range for examples, by number; 10,000,000 of them are there. */
export const gtinOf = (number) => {
  const digits = `95${String(number).padStart(10, "0")}`;
  return digits + checkDigit(digits);
};

const quoted = (text) => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/**
 * Writes a CSV of so many rows; `change` may alter a row's cells by column name.
 * @param {(row: Record<string, string>, number: number) => void} change
 */
export const writeCatalogue = async (path, count, change = () => undefined, columns = undefined) => {
  const { data, meta } = Papa.parse(readFileSync(demoExport, "utf8"), { header: true, skipEmptyLines: true });
  const goods = data.filter((row) => row["Article no"] !== "" && row.Title !== "");
  const shown = columns ?? meta.fields;
  const out = createWriteStream(path, { highWaterMark: 1 << 20 });
  out.write(`${shown.map(quoted).join(",")}\n`);
  let text = "";
  for (let number = 0; number < count; number++) {
    const round = Math.floor(number / goods.length);
    const row = { ...goods[number % goods.length] };
    row["Article no"] += `-${round}-${number % goods.length}`;
    if (row.Family !== "") row.Family += `-${round}`;
    if (row.Barcode !== "" || row.ISBN !== "") row.Barcode = gtinOf(number);
    row.ISBN = "";
    row.Page += `-${round}`;
    row.Title = `${row.Title.trim()} ${round}`;
    change(row, number);
    text += `${shown.map((column) => quoted(row[column] ?? "")).join(",")}\n`;
    if (text.length > 1 << 18) {
      if (!out.write(text)) await once(out, "drain");
      text = "";
    }
  }
  out.end(text);
  await once(out, "finish");
};
