// The same renaming, joining, templating and formatting as the demo's Lanternlist fills, without a check: what an engineer
// would write with DuckDB. Arguments: export, file to write, placements, threads.
import { DuckDBInstance } from "@duckdb/node-api";

const [from, to, placements, threads] = process.argv.slice(2);
const price = (column) =>
  `printf('%.2f', try_cast(replace(replace(e."${column}", '£', ''), ',', '') AS DECIMAL(18, 2)))`;
const plain = (column) => {
  const stripped = `regexp_replace(e."${column}", '<[^>]+>', ' ', 'g')`;
  const letters = `replace(replace(${stripped}, '&nbsp;', ' '), '&amp;', '&')`;
  return `trim(regexp_replace(${letters}, '\\s+', ' ', 'g'))`;
};

const instance = await DuckDBInstance.create(":memory:", { threads });
const connection = await instance.connect();
await connection.run(`
  COPY (
    SELECT p.channel_category AS shelf, e."Article no" AS ref, e.Family AS family,
      CASE WHEN e."Own make" = 'yes' THEN 'own make' ELSE 'trade goods' END AS goods_kind,
      e.Brand AS maker, e."Maker's no" AS part_number, e.Barcode AS barcode, e."Made in" AS origin,
      concat_ws(', ', e.Title, nullif(e.Colour, ''), nullif(e.Size, '')) AS headline,
      ${plain("Long text")} AS words, e.Material AS made_of, e.Colour AS tint, e.Size AS fit,
      e."Age group" AS for_age, coalesce(nullif(e.Condition, ''), 'new') AS wear,
      ${price("Price")} AS amount, 'GBP' AS currency,
      CASE WHEN e."Offer price" <> '' THEN ${price("Offer price")} END AS offer_amount,
      e."Offer until" AS offer_ends,
      CASE WHEN try_cast(e."In stock" AS INTEGER) > 0 THEN 'on the shelf'
        WHEN e."Back on" <> '' THEN 'ordered in' ELSE 'sold out' END AS supply,
      coalesce(try_cast(e."Parcel weight" AS DOUBLE), try_cast(e."Item weight" AS DOUBLE) * 1.1) AS parcel_kg,
      e.Page AS page, split_part(e.Picture, '|', 1) AS picture,
      array_to_string(list_slice(string_split(e.Picture, '|'), 2, 10), ',') AS further_picture,
      e.Author AS author, e."Least age" AS least_age, e.Battery AS battery_kind, e.Hazard AS hazard_note
    FROM read_csv('${from}', all_varchar = true, header = true) e
    LEFT JOIN read_csv('${placements}', all_varchar = true, header = true) p ON p.our_category = e.Section
    WHERE e.Status = 'on sale'
  ) TO '${to}' (HEADER, DELIMITER '\t')`);
