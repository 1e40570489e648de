/** Minor-unit digits by currency code, from ISO 4217 (active national currencies). */
const digits: Readonly<Record<number, string>> = {
  0: "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF",
  2:
    "AED AFN ALL AMD AOA ARS AUD AWG AZN BAM BBD BDT BGN BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CNY " +
    "COP CRC CUP CVE CZK DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GTQ GYD HKD HNL HTG HUF IDR " +
    "ILS INR IRR JMD KES KGS KHR KPW KYD KZT LAK LBP LKR LRD LSL MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK " +
    "MXN MYR MZN NAD NGN NIO NOK NPR NZD PAB PEN PGK PHP PKR PLN QAR RON RSD RUB SAR SBD SCR SDG SEK SGD SHP " +
    "SLE SOS SRD SSP STN SVC SYP SZL THB TJS TMT TOP TRY TTD TWD TZS UAH USD UYU UZS VES WST XCD XCG YER ZAR ZMW ZWG",
  3: "BHD IQD JOD KWD LYD OMR TND",
};

const minorDigits = new Map<string, number>(
  Object.entries(digits).flatMap(([count, codes]) =>
    codes.split(" ").map((code) => [code, Number(count)] as const),
  ),
);

// Signs and the currencies that are written with them; where there are several, the first has no claim over the others.
const signs = new Map<string, readonly string[]>(
  Object.entries({
    "£": "GBP EGP FKP GIP SHP SSP",
    "€": "EUR",
    "¥": "JPY CNY",
    "₹": "INR",
    "₺": "TRY",
    "₴": "UAH",
    "₩": "KRW",
    "₪": "ILS",
    "₫": "VND",
    zł: "PLN",
    kč: "CZK",
    ft: "HUF",
    kr: "SEK NOK DKK ISK",
    fr: "CHF",
    $: "USD AUD CAD NZD SGD HKD MXN TWD ARS BBD BMD BND BSD BZD CLP COP CVE DOP FJD GYD JMD KYD LRD NAD NIO SBD SRD TTD UYU XCD",
    us$: "USD",
    a$: "AUD",
    au$: "AUD",
    c$: "CAD",
    ca$: "CAD",
    nz$: "NZD",
    hk$: "HKD",
    s$: "SGD",
    mx$: "MXN",
    r$: "BRL",
  }).map(([sign, codes]) => [sign, codes.split(" ")]),
);

// A sign of several that means one of them wherever nothing else is said.
const usual = new Map([["£", "GBP"]]);

/** Whether a text is an active code of ISO 4217. */
export const isCurrency = (code: string): boolean => minorDigits.has(code);

/** How many decimal places the currency is written with (GBP: 2). */
export const currencyPlaces = (code: string): number => minorDigits.get(code) ?? 2;

/** Currencies that a sign or code can stand for; none where it is neither. */
function currenciesOf(mark: string): readonly string[] {
  const code = mark.toUpperCase();
  return minorDigits.has(code) ? [code] : (signs.get(mark.toLowerCase()) ?? []);
}

/** What is wrong with a price's currency. */
export type CurrencyProblem = "no-currency" | "which-currency" | "two-currencies";

/**
 * The currency that the signs and codes around an amount stand for together: `$12.50 CAD` is in Canadian dollars. A sign
 * that several currencies share means the default where it is one of them; elsewhere nothing tells which.
 */
export function currencyOf(
  marks: readonly string[],
  fallback: string | undefined,
): { readonly currency: string } | { readonly problem: CurrencyProblem } {
  const [first, ...others] = marks.map(currenciesOf);
  if (first === undefined)
    return fallback === undefined ? { problem: "no-currency" } : { currency: fallback };
  if ([first, ...others].some((codes) => codes.length === 0)) return { problem: "no-currency" };
  const possible = others.reduce((left, codes) => left.filter((code) => codes.includes(code)), first);
  const [only, another] = possible;
  if (only === undefined) return { problem: "two-currencies" };
  if (another === undefined) return { currency: only };
  if (fallback !== undefined && possible.includes(fallback)) return { currency: fallback };
  const common = usual.get(marks[0] ?? "");
  return common === undefined ? { problem: "which-currency" } : { currency: common };
}
