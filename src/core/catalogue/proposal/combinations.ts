/**
 * Columns that speak together: a price and its currency, a number and its unit, pictures side by side, options and
 * their values. Each way sees the columns that the ones before it left.
 */
import { fold } from "../../values/text.js";
import { columnExpression, listExpression, textExpression } from "./expressions.js";
import type { SampleColumn } from "./sample-column.js";
import { type Combine, combination, proposed, type Combination } from "./combination.js";
import { offerDays, tiers, nets, currencies, prices } from "./amount-columns.js";
import { namedPairs, axisPairs } from "./pair-columns.js";
import { compounds, sizes, partsOfMeasure, units } from "./measure-columns.js";

/** One column a level of the category path. */
const levels: Combine = (columns) => {
  const found = columns
    .filter(
      ({ name, shape }) =>
        ((name.attribute === "category" && name.number !== undefined) ||
          isLevel(name.words + (name.number === undefined ? "" : ` ${name.number}`))) &&
        shape.url < 0.5,
    )
    .sort((a, b) => (a.name.number ?? 0) - (b.name.number ?? 0));
  const [first] = found;
  if (first === undefined) return [];
  const top = columns.find(
    ({ name }) => name.attribute === "category" && name.number === undefined && name.certainty >= 0.9,
  );
  const isBelow =
    /^(?:sub|sous|unter|onder|pod|sotto)/.test(first.name.words) || (first.name.number ?? 1) > 1;
  const all = top === undefined || found.includes(top) || !isBelow ? found : [top, ...found];
  if (all.length < 2) return [];
  const expression = `path(${listExpression(all.map(({ column }) => column))})`;
  return [combination([proposed("category", expression, all, 0.9)], all)];
};

const isLevel = (words: string): boolean =>
  levelName.test(words.toLowerCase().trim()) || levelName.test(fold(words));

const levelName =
  /^(?:department|dept|section|reparto|sottoreparto|abteilung|rayon|sous rayon|afdeling|dział|seccion|sección|departamento|level|category level|(?:sub|sous|unter|onder|pod|sotto) ?(?:category|section|group|catégorie|categorie|famille|rayon|kategorie|gruppe|warengruppe|categoría|categoria|familia|sección|grupo|groep|rubriek|kategoria|grupa)|kategorie ?ebene|ebene|warengruppe|niveau|nivel|poziom|main group|sub group|hauptgruppe|main category|hauptkategorie|famille principale|hoofdgroep|grupa główna|kategoria gł[oó]wna|catégorie principale|categorie principale|categoría principal|categoria principal|hoofdcategorie)(?: \d)?$/;

/** A path whose levels are set apart by another mark than ours. */
const marked: Combine = (columns) =>
  columns
    .filter(
      ({ name, shape }) =>
        name.attribute === "category" && shape.pathMark !== undefined && !shape.pathMark.includes(">"),
    )
    .slice(0, 1)
    .map((column) => {
      const mark = textExpression((column.shape.pathMark ?? "").trim());
      return combination(
        [proposed("category", `path(${columnExpression(column.column)}, ${mark})`, [column], 0.9)],
        [column],
      );
    });

const placeWord =
  /(?:^| )(?:depot|depots|warehouse|store|shop|branch|location|lager|filiale|laden|keller|magasin|entrepot|dépôt|magazzino|deposito|negozio|almacen|almacén|tienda|magazijn|winkel|magazyn|sklep|stock)(?: |$)/;

/** What is reserved, broken or on its way is not for sale. */
const notForSale =
  /reserv|réserv|block|sperr|defekt|defect|broken|retour|return|transit|unterwegs|order|bestell|consign|kommission|unlisted|(?:^| )(?:next|coming|expected|due|zulauf|erwartet|prochain|proxim|prossim|volgende)(?: |$)/;

/** Pieces by place, side by side: what there is of all, but for those that are not for sale. */
const places: Combine = (columns) => {
  const named = columns.filter(
    ({ label, shape }) =>
      placeWord.test(fold(label)) && shape.whole > 0.8 && shape.filled > 0 && shape.averageLength < 6,
  );
  const isOther = (column: SampleColumn): boolean =>
    !named.includes(column) && !notForSale.test(fold(column.label));
  const isCounted = ({ name }: SampleColumn): boolean =>
    name.attribute === "quantity" && name.certainty >= 0.9;
  if (named.length < 2 || columns.some((column) => isOther(column) && isCounted(column))) return [];
  const found = named.filter(({ label }) => !notForSale.test(fold(label)));
  const expression = `total(${found.map(({ column }) => columnExpression(column)).join(", ")})`;
  return [combination([proposed("quantity", expression, found, 0.6)], named)];
};

/** Every way in which columns speak together; each sees what the ones before it left. */
export function combinations(columns: readonly SampleColumn[]): readonly Combination[] {
  const found: Combination[] = [];
  let left = columns;
  for (const combine of [
    offerDays,
    namedPairs,
    axisPairs,
    compounds,
    sizes,
    levels,
    marked,
    partsOfMeasure,
    units,
    tiers,
    nets,
    places,
    currencies,
    prices,
  ])
    for (const one of combine(left)) {
      if (one.used.some((column) => !left.includes(column))) continue;
      found.push(one);
      left = left.filter((column) => !one.used.includes(column));
    }
  return found;
}
