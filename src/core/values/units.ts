/** Units of measure with exact factors (UN/CEFACT Recommendation 20). */
import { decimal, type Decimal } from "./decimal.js";

/** What a unit measures. */
export type Dimension = "mass" | "length" | "area" | "volume" | "energy" | "power" | "time" | "count";

/** A unit of measure: our short code, the UN/CEFACT Recommendation 20 code, and the exact factor to the base unit. */
export interface Unit {
  readonly code: string;
  readonly cefact: string;
  readonly dimension: Dimension;
  readonly factor: Decimal;
}

// code | UN/CEFACT | dimension | factor to the dimension's base | other spellings
const table = `
kg | KGM | mass | 1 | kilo kilos kilogram kilograms kgs
g | GRM | mass | 0.001 | gr gram grams gms gm
mg | MGM | mass | 0.000001 | milligram milligrams
t | TNE | mass | 1000 | tonne tonnes
lb | LBR | mass | 0.45359237 | lbs pound pounds
oz | ONZ | mass | 0.028349523125 | ounce ounces
m | MTR | length | 1 | metre metres meter meters
cm | CMT | length | 0.01 | centimetre centimetres centimeter centimeters
mm | MMT | length | 0.001 | millimetre millimetres millimeter millimeters
in | INH | length | 0.0254 | inch inches " ″ ”
ft | FOT | length | 0.3048 | foot feet ' ′ ’
yd | YRD | length | 0.9144 | yard yards
m2 | MTK | area | 1 | m² sqm
cm2 | CMK | area | 0.0001 | cm²
ha | HAR | area | 10000 | hectare hectares
ac | ACR | area | 4046.8564224 | acre acres
l | LTR | volume | 1 | litre litres liter liters ltr
ml | MLT | volume | 0.001 | millilitre millilitres milliliter milliliters
cl | CLT | volume | 0.01 | centilitre centilitres
m3 | MTQ | volume | 1000 | m³
pt | PTI | volume | 0.56826125 | pint pints
gal | GLI | volume | 4.54609 | gallon gallons
Wh | WHR | energy | 3600 | watt-hour watt-hours
kWh | KWH | energy | 3600000 | kilowatt-hour kilowatt-hours
J | JOU | energy | 1 | joule joules
W | WTT | power | 1 | watt watts
kW | KWT | power | 1000 | kilowatt kilowatts
day | DAY | time | 1 | days d
week | WEE | time | 7 | weeks
month | MON | time | 30.436875 | months
year | ANN | time | 365.2425 | years yr yrs
pc | H87 | count | 1 | pcs piece pieces
`;

const bySpelling = new Map<string, Unit>();

for (const line of table.trim().split("\n")) {
  const [code = "", cefact = "", dimension = "", factor = "", others = ""] = line
    .split("|")
    .map((cell) => cell.trim());
  const amount = decimal(factor);
  if (amount === undefined) throw new Error(`unit ${code} has no factor`);
  const unit: Unit = { code, cefact, dimension: dimension as Dimension, factor: amount };
  for (const spelling of [code, cefact, ...others.split(" ").filter(Boolean)])
    bySpelling.set(spelling.toLowerCase(), unit);
}

/** The unit for a code, a UN/CEFACT code or a usual spelling, in any case; undefined when unknown. */
export const unitOf = (spelling: string): Unit | undefined =>
  bySpelling.get(spelling.toLowerCase().replace(/\.$/, ""));

/** Every short code, in table order, for suggestions. */
export const unitCodes = (): readonly string[] => [
  ...new Set([...bySpelling.values()].map((unit) => unit.code)),
];
