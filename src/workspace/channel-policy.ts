/** Selection, prices and stock of `channel.yaml`, compiled. */
import { addAll } from "../core/many.js";
import type { AttributeIndex } from "../core/catalogue/attribute-index.js";
import { isAttributeName } from "../core/catalogue/vocabulary.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { exchanged } from "../core/language/exchanged.js";
import type { Surroundings } from "../core/language/function.js";
import type { ResultKind } from "../core/language/kind.js";
import type { Names } from "../core/language/names.js";
import { program, type ReadyProgram } from "../core/language/program.js";
import type { PricePolicy, PriceRule, StockPolicy } from "../core/listing/price/price-policy.js";
import { everything, type Selection } from "../core/listing/select/selection.js";
import { Cannot } from "../core/language/trouble.js";
import { noRates } from "../core/values/rates.js";
import { readValue } from "../core/values/read.js";
import { isMoney, type Money } from "../core/values/value.js";
import type { ChannelModel } from "./models/channel-model.js";
import { expressionAt, type KeyPath, type YamlFile } from "./yaml-file.js";

/** What `channel.yaml` decides of products, prices and stock; or every fault in it. */
export interface ChannelPolicy {
  readonly selection: Selection;
  readonly prices: PricePolicy;
  readonly stock: StockPolicy | undefined;
  readonly findings: readonly Diagnostic[];
}

interface PolicyReading {
  readonly yaml: YamlFile;
  readonly names: Names;
  readonly surroundings: Surroundings;
  readonly findings: Diagnostic[];
}

function expression(path: KeyPath, wanted: ResultKind, reading: PolicyReading): ReadyProgram | undefined {
  const { yaml, names, surroundings, findings } = reading;
  const source = expressionAt(yaml, path);
  if (source === undefined) return undefined;
  const compiled = program(source, names, surroundings, wanted);
  if (compiled.kind === "program") return compiled;
  addAll(findings, compiled.findings);
  return undefined;
}

function amount(
  text: string | number | undefined,
  key: string,
  currency: string,
  { yaml, findings }: PolicyReading,
): Money | undefined {
  if (text === undefined) return undefined;
  const read = readValue("money", String(text), { currency, decimalMark: "." });
  if ("value" in read && isMoney(read.value)) return read.value;
  findings.push(
    diagnostic(
      "wrong-setting",
      { key: `selection.${key}`, reason: "is a price such as 5 or 5.00 GBP" },
      { place: yaml.place(["selection", key]) },
    ),
  );
  return undefined;
}

/** Attributes that the channel's price rules make: those of the catalogue, and new ones such as price@EUR. */
export const ruledAttributes = ({ prices }: ChannelModel): readonly string[] =>
  Object.keys(prices?.rules ?? {}).filter(isAttributeName);

const priceRules = (
  { prices }: ChannelModel,
  attributes: AttributeIndex,
  reading: PolicyReading,
): readonly PriceRule[] =>
  Object.keys(prices?.rules ?? {}).flatMap((attribute): readonly PriceRule[] => {
    const path = ["prices", "rules", attribute];
    const slot = attributes.slot(attribute);
    if (slot === undefined || attributes.kinds[slot]?.kind !== "money") {
      reading.findings.push(
        diagnostic(
          "wrong-setting",
          {
            key: `prices.rules.${attribute}`,
            reason: "is a price of the catalogue, such as price, sale_price or price@EUR",
          },
          { place: reading.yaml.place(path) },
        ),
      );
      return [];
    }
    const compiled = expression(path, "money", reading);
    return compiled === undefined ? [] : [{ attribute, slot, program: compiled }];
  });

/** Reads selection, prices and stock of `channel.yaml`; expressions are checked against the catalogue's attributes. */
export function channelPolicy(
  settings: ChannelModel,
  yaml: YamlFile,
  attributes: AttributeIndex,
  names: Names,
  surroundings: Surroundings,
  shopCurrency: string,
): ChannelPolicy {
  const reading: PolicyReading = { yaml, names, surroundings, findings: [] };
  const { selection: chosen = {}, prices, stock } = settings;
  const selection: Selection = {
    ...everything,
    condition: expression(["select"], "yes-no", reading),
    takesDigital: chosen.digital ?? true,
    hazards:
      chosen.hazards === undefined || chosen.hazards === true
        ? "all"
        : chosen.hazards === false
          ? []
          : chosen.hazards,
    countries: chosen.countries ?? [],
    leastPrice: amount(chosen.least_price, "least_price", shopCurrency, reading),
    leastReadiness: chosen.least_readiness,
  };
  const pricePolicy: PricePolicy = {
    rules: priceRules(settings, attributes, reading),
    lowest: expression(["prices", "lowest"], "money", reading),
    highest: expression(["prices", "highest"], "money", reading),
    outside: prices?.outside ?? "hold",
    // A buyer is asked for what holds today, wherever nothing else is wished.
    sales: prices?.sales ?? "running",
    greatestChange: prices?.greatest_change,
    exchange(price, currency) {
      const found = exchanged(price, currency, surroundings.rates ?? noRates, surroundings.today);
      return found instanceof Cannot ? undefined : found;
    },
  };
  const stockPolicy: StockPolicy | undefined =
    stock === undefined
      ? undefined
      : { heldBack: stock.held_back ?? 0, share: stock.share ?? 100, atMost: stock.at_most };
  return { selection, prices: pricePolicy, stock: stockPolicy, findings: reading.findings };
}
