/** The language and the currencies of a channel, by its own words. */
import type { LearnedChannel } from "./learned.js";

const words: Readonly<Record<string, string>> = {
  en: "the of and or with from for brand price title description stock weight width height colour color size material condition picture image name number link category required optional mandatory not must up characters value values only",
  de: "der die das und oder mit von für marke preis titel beschreibung bestand gewicht breite höhe tiefe farbe größe material zustand bild name nummer kategorie pflicht pflichtfeld optional nicht muss zeichen wert werte nur artikelnummer hersteller merkmal",
  fr: "le la les de du des et ou avec pour marque prix titre description quantité stock poids largeur hauteur profondeur couleur taille matière état image nom numéro lien catégorie obligatoire facultatif caractères valeur valeurs référence fabricant",
  es: "el la los las de del y o con para marca precio título descripción cantidad existencias peso anchura altura profundidad color talla material estado imagen nombre número enlace categoría obligatorio opcional caracteres valor valores referencia fabricante",
};

const sets = new Map(Object.entries(words).map(([tongue, list]) => [tongue, new Set(list.split(" "))]));

/** The language in which the channel speaks, where its headings and rules tell; a BCP 47 code. */
export function tongueOf({ fields }: LearnedChannel): string | undefined {
  const counts = new Map<string, number>();
  for (const { label, facts } of fields)
    for (const word of `${label} ${facts.get("help")?.value ?? ""}`.toLowerCase().split(/[^\p{L}]+/u))
      for (const [tongue, own] of sets) if (own.has(word)) counts.set(tongue, (counts.get(tongue) ?? 0) + 1);
  const [first, second] = [...counts].sort((a, b) => b[1] - a[1]);
  if (first === undefined || first[1] < 3) return undefined;
  return second === undefined || first[1] >= second[1] * 1.3 ? first[0] : undefined;
}

const signs: readonly (readonly [RegExp, string])[] = [
  [/(?<![A-Z])EUR(?![A-Z])|€|\beuros?\b/i, "EUR"],
  [/(?<![A-Z])GBP(?![A-Z])|£|\bpounds\b/i, "GBP"],
  [/(?<![A-Z])USD(?![A-Z])|US\$|\bdollars\b/i, "USD"],
  [/(?<![A-Z])CHF(?![A-Z])|\bfranken\b/i, "CHF"],
  [/(?<![A-Z])SEK(?![A-Z])/, "SEK"],
  [/(?<![A-Z])NOK(?![A-Z])/, "NOK"],
  [/(?<![A-Z])DKK(?![A-Z])/, "DKK"],
  [/(?<![A-Z])PLN(?![A-Z])|zł/, "PLN"],
];

/** The currencies that prices are asked for in, where their columns say so; ISO 4217. */
export function currenciesOf({ fields }: LearnedChannel): readonly string[] {
  const texts = fields
    .filter(({ facts }) => ["money", "decimal"].includes(facts.get("kind")?.value ?? ""))
    .map(
      ({ label, facts }) => `${label} ${facts.get("help")?.value ?? ""} ${facts.get("example")?.value ?? ""}`,
    );
  return signs.flatMap(([pattern, code]) => (texts.some((text) => pattern.test(text)) ? [code] : []));
}
