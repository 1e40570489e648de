/** Which attribute of ours a channel's field asks for, by its name or its values. */
import { trust } from "./trust.js";
import { plainWords } from "./plain-words.js";
import { isOurs } from "../catalogue/vocabulary.js";
import { columnName } from "../catalogue/proposal/column-name.js";
import { termKey } from "../values/text.js";
import { nameKey } from "./headings.js";

/** The attribute that a channel's field asks for, as far as its name tells. */
export interface FieldMeaning {
  readonly attribute: string;
  /** 0 to 1. */
  readonly confidence: number;
  readonly because: string;
}

// How channels call what a catalogue has, where it is not how shops call it; over folded names, the first that fits counts.
const phrases: readonly (readonly [RegExp, string])[] = [
  [
    /^(?:(?:seller|shop|vendor|merchant|your|own|my|our|trader|eigene|ihre|deine|votre|su|tu|propi[oa]|referencia del|reference)\b.*\b(?:reference|referencia|ref|sku|number|code|id|article|artikel\p{L}*|nr|item|vendeur|vendedor|codigo)|item (?:number|ref|reference|id|code)|codigo propio|votre reference|reference vendeur|referencia del vendedor|eigene artikelnr)$/u,
    "sku",
  ],
  [
    /\b(?:family (?:reference|ref|id|code)|variation (?:group|family|id)|variant (?:group|family|id)|group (?:reference|ref|id)|range (?:ref|reference|id)|parent (?:sku|ref|reference|id|code|number)|varianten?gruppe|groupe de variantes?|reference parente?|grupo de variantes|referencia (?:padre|principal))\b/,
    "group",
  ],
  [
    /\b(?:varies by|vary by|variation (?:by|axis|axes|attribute|type)|differs (?:by|in)|variiert nach|unterscheidet sich|varie selon|axe de variation|varia por|eje de variacion)\b/,
    "varies_by",
  ],
  [/\b(?:barcode|gtin|ean|upc|strichcode|code barres|codigo de barras)\b/, "gtin"],
  [/\bisbn\b/, "isbn"],
  [
    /\b(?:recommended retail|list price|rrp|uvp|listenpreis|prix conseille|prix barre|precio recomendado|precio de lista)\b/,
    "list_price",
  ],
  [
    /\b(?:sale|offer|promo\p{L}*|special|reduced|angebots?|aktions?|sonder|oferta|rebaja)\b.*\b(?:start|starts|from|begin|begins|ab|von|debut|inicio|desde)\b|^(?:angebot|aktion) (?:ab|von)$|\bdebut (?:de la )?promo\p{L}*|\binicio de (?:la )?oferta/u,
    "sale_from",
  ],
  [
    /\b(?:sale|offer|promo\p{L}*|special|reduced|angebots?|aktions?|sonder|oferta|rebaja)\b.*\b(?:end|ends|until|to|till|bis|fin|hasta)\b|^(?:angebot|aktion) bis$|\bfin (?:de la )?promo\p{L}*|\bfin de (?:la )?oferta/u,
    "sale_until",
  ],
  [
    /\b(?:sale price|offer price|reduced price|angebotspreis|aktionspreis|prix promo\p{L}*|prix solde|precio de oferta|precio rebajado)\b/u,
    "sale_price",
  ],
  [
    /^(?:selling price|price|verkaufspreis|preis|prix|prix de vente|precio|precio de venta|asking price)(?: (?:gross|incl\p{L}* \p{L}+|brutto|ttc|[a-z]{3}))?$/u,
    "price",
  ],
  [
    /\b(?:quantity|stock|units available|in stock|bestand|lagerbestand|quantite|existencias|cantidad disponible)\b/,
    "quantity",
  ],
  [
    /\b(?:listing title|item headline|headline|item title|product (?:name|title)|titre de l annonce|nom du produit|produktname|artikelname|nombre del producto|titulo)\b|^(?:title|titel|titre)$/,
    "name",
  ],
  [
    /\b(?:long description|full text|item description|product description|about this|beschreibung|produktbeschreibung|description|descripcion)\b/,
    "description",
  ],
  [
    /\b(?:selling points?|key features?|bullets?|highlights?|merkmale?|vorteile?|points? forts?|puntos? destacados?|features?)\b/,
    "features",
  ],
  [
    /\b(?:search (?:terms?|words?)|keywords?|tags|suchbegriffe?|schlagworte?|mots cles|palabras clave)\b/,
    "keywords",
  ],
  [
    /\b(?:part number|maker s part|manufacturer (?:part|ref)\p{L}*|mpn|hersteller teilenummer|herstellernummer|teilenummer|reference fabricant|referencia del fabricante)\b/u,
    "mpn",
  ],
  [/\b(?:brand|marke|markenname|marque|marca)\b/, "brand"],
  [/\b(?:manufacturer|made by|maker|hersteller|fabricant|fabricante|producer)\b/, "manufacturer"],
  [
    /\b(?:country of origin|made in|ursprungsland|herkunftsland|pays d origine|pais de origen|country of manufacture)\b/,
    "country_of_origin",
  ],
  [/\b(?:contains batter(?:y|ies)|batter(?:y|ies)|batterien?|piles?|pilas)\b/, "battery"],
  [/\b(?:dangerous goods|hazardous|hazard|gefahrgut|matieres dangereuses|mercancia peligrosa)\b/, "hazard"],
  [/\b(?:age group|altersgruppe|tranche d age|grupo de edad)\b/, "age_group"],
  [/\b(?:vat|tax|mehrwertsteuer\p{L}*|mwst\p{L}*|tva|iva)\b/u, "tax_rate"],
  [
    /\b(?:days until dispatch|handling time|dispatch (?:time|days)|versandfertig|bearbeitungszeit|delai d expedition|dias hasta el envio|plazo de envio)\b/,
    "dispatch_days",
  ],
  [/\b(?:colou?r|hue|tint|farbe|farbgruppe|grundfarbe|couleur|shade)\b/, "color"],
  [/\b(?:size|grosse|taille|talla)\b/, "size"],
  [/\b(?:material|hauptmaterial|matiere|materiau)\b/, "material"],
  [/\b(?:condition|item state|zustand|etat|estado)\b/, "condition"],
  [
    /\b(?:product page|page address|page link|produktseite|lien de la page|enlace de la pagina|landing page)\b/,
    "url",
  ],
  [
    /\b(?:(?:main|further|extra|additional|first|lead)? ?(?:pictures?|images?|photos?)|hauptbild|zusatzbild|weiteres bild|bild url|image principale|image supplementaire|imagen principal|imagen adicional|fotos?)\b/,
    "images",
  ],
  [
    /\b(?:category|department|kategorie|warengruppe|categorie|rayon|categoria|seccion|product type)\b/,
    "category",
  ],
  [/\b(?:condition|zustand)\b/, "condition"],
];

/** What stands in brackets says how it is measured, and not what it is. */
const plain = (name: string): string => plainWords(name.replace(/\([^)]*\)/g, " "));

/** Words that turn a field into one about something else than the attribute that its name holds. */
const turnsAway =
  /\b(?:video|film|safety|energy|unit|units|currency|type|size chart|chart|note|hinweis|care|warranty|guarantee|system|exempt\p{L}*|waehrung|wahrung|devise|moneda|einheit|unite|unidad)\b/u;

/** The attribute that a name asks for; `own` are attributes that the shop's catalogue has beside ours. */
export function meaningOf(names: readonly string[], own: readonly string[]): FieldMeaning | undefined {
  const byKey = new Map(
    own.filter((attribute) => !isOurs(attribute)).map((attribute) => [nameKey(attribute), attribute]),
  );
  for (const [at, name] of names.entries()) {
    const weight = at === 0 ? 1 : trust.secondName;
    const text = plain(name);
    if (text === "") continue;
    const shops =
      byKey.get(nameKey(name)) ?? byKey.get(nameKey(text.replace(/ (?:kg|g|cm|mm|m|l|ml|w)$/, "")));
    if (shops !== undefined)
      return {
        attribute: shops,
        confidence: trust.catalogueName * weight,
        because: `the catalogue has "${shops}"`,
      };
    const column = columnName(name.replace(/\([^)]*\)/g, " ").trim() || name);
    if (
      column.attribute !== undefined &&
      column.certainty >= trust.surelyNamed &&
      isOurs(column.attribute) &&
      !turnsAway.test(text.replace(column.words, ""))
    )
      return {
        attribute: column.attribute === "first_image" ? "images" : column.attribute,
        confidence: trust.usualName * weight,
        because: `"${name}" is a usual name of it`,
      };
    const phrase = phrases.find(([pattern]) => pattern.test(text));
    if (phrase !== undefined) {
      const isWhole = text.replace(phrase[0], "").trim().length <= 3;
      const away = turnsAway.test(text.replace(phrase[0], ""));
      if (!away)
        return {
          attribute: phrase[1],
          confidence: (isWhole ? trust.isItsName : trust.speaksOfIt) * weight,
          because: `"${name}" speaks of it`,
        };
    }
  }
  return undefined;
}

/** Fewer words in common, or a smaller share of the list, may be chance. */
const FEW = 2;
const LEAST_SHARE = 0.3;

/** The attribute whose values in this shop are those of a channel's list. `terms` are the shop's, folded, by attribute. */
export function meaningByValues(
  values: readonly string[],
  terms: ReadonlyMap<string, ReadonlySet<string>>,
): FieldMeaning | undefined {
  if (values.length < FEW) return undefined;
  const keys = values.map(termKey);
  let best: { readonly attribute: string; readonly known: number } | undefined;
  for (const [attribute, own] of terms) {
    const known = keys.filter((key) => own.has(key)).length;
    if (known > (best?.known ?? 0)) best = { attribute, known };
  }
  const share = (best?.known ?? 0) / values.length;
  if (best === undefined || best.known < FEW || share < LEAST_SHARE) return undefined;
  return {
    attribute: best.attribute,
    confidence: Math.min(trust.valuesMost, trust.valuesLeast + trust.valuesShare * share),
    because: `${best.known} of its ${values.length} values stand under "${best.attribute}"`,
  };
}
