/** Minor-unit digits by currency code, from ISO 4217 (active national currencies). */
const digits: Readonly<Record<number, string>> = {
  0: "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF",
  2:
    "AED AFN ALL AMD AOA ARS AUD AWG AZN BAM BBD BDT BGN BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CNY " +
    "COP CRC CUP CVE CZK DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GTQ GYD HKD HNL HTG HUF IDR " +
    "ILS INR IRR JMD KES KGS KHR KPW KYD KZT LAK LBP LKR LRD LSL MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK " +
    "MXN MYR MZN NAD NGN NIO NOK NPR NZD PAB PEN PGK PHP PKR PLN QAR RON RSD RUB SAR SBD SCR SDG SEK SGD SHP " +
    "SLE SOS SRD SSP STN SVC SYP SZL THB TJS TMT TOP TRY TTD TWD TZS UAH USD UYU UZS VES WST XCD YER ZAR ZMW ZWG",
  3: "BHD IQD JOD KWD LYD OMR TND",
};

const minorDigits = new Map<string, number>(
  Object.entries(digits).flatMap(([count, codes]) =>
    codes.split(" ").map((code) => [code, Number(count)] as const),
  ),
);

/** Signs that stand for one currency only; `$` and `kr` stand for many and are read by the default currency. */
const signs = new Map([
  ["£", "GBP"],
  ["€", "EUR"],
  ["¥", "JPY"],
  ["₹", "INR"],
  ["₺", "TRY"],
  ["₴", "UAH"],
  ["zł", "PLN"],
  ["Kč", "CZK"],
]);

const sharedSigns = new Map([
  ["$", new Set(["USD", "AUD", "CAD", "NZD", "SGD", "HKD", "MXN", "TWD"])],
  ["kr", new Set(["SEK", "NOK", "DKK", "ISK"])],
]);

export const isCurrency = (code: string): boolean => minorDigits.has(code);

/** How many decimal places the currency is written with (GBP: 2). */
export const currencyPlaces = (code: string): number => minorDigits.get(code) ?? 2;

/** The currency that a sign or code stands for; a shared sign needs the default to choose. */
export const currencyOf = (mark: string, fallback: string | undefined): string | undefined => {
  const code = mark.toUpperCase();
  if (minorDigits.has(code)) return code;
  const own = signs.get(mark);
  if (own !== undefined) return own;
  const shared = sharedSigns.get(mark.toLowerCase());
  return fallback !== undefined && shared?.has(fallback) === true ? fallback : undefined;
};
