import { fold } from "../values/text.js";
import type { AttributeKind } from "../values/attribute-kind.js";
import type { Kind } from "../values/value.js";

interface VocabularyEntry extends AttributeKind {
  readonly name: string;
  readonly synonyms: readonly string[];
}

// name | kind (a trailing * means several) | other usual column names, folded
const table = `
sku | text | sku; item number; item no; item code; article; article number; article no; article code; product code; product number; product no; product id; stock code; stock no; sku code; seller sku; our sku; variant sku; stock keeping unit; reference; ref; part code; artikelnummer; artikel nr; artikel; art nr; artnr; bestellnummer; référence; reference article; code article; codigo; código; codice; numero articolo; artikelcode; item; internal number; internal code
group | text | group; parent sku; parent; parent id; parent code; family; family code; product group; product family; variant group; style; style number; style no; style code; item group; model group; master sku; master; group id; group code; hauptartikel; vaterartikel; variantengruppe; parent reference; modèle; belongs to; parent article; part of range; range code; parent product
varies_by | text* | varies by; variation axes; variation axis; options; varianten nach; differs by
name | text | name; title; product name; item name; article name; product title; item title; short description; designation; listing title; bezeichnung; artikelbezeichnung; titel; produktname; artikelname; nom; nom du produit; titre; désignation; libellé; nombre; titolo; nome; naam; productnaam; omschrijving; heading; goods; item description; what it is; short name; label text
description | html | description; long description; product description; item description; long text; body; text; details; full description; description html; beschreibung; produktbeschreibung; langtext; artikelbeschreibung; description longue; descripción; descrizione; beschrijving
features | text* | features; bullet points; bullets; bullet; feature; key features; highlights; selling points; merkmale; eigenschaften; points forts
keywords | text* | keywords; search words; search terms; tags; keyword; suchbegriffe; schlagworte; mots clés
brand | text | brand; brand name; make; marke; markenname; marque; marca; merk; label
manufacturer | text | manufacturer; maker; producer; manufacturer name; vendor; supplier name; hersteller; herstellername; fabricant; produttore; fabricante; fabrikant; vendor name; supplier
mpn | text | mpn; manufacturer part number; part number; maker s number; maker s no; part no; manufacturer code; manufacturer number; manufacturer no; supplier code; supplier part number; model number; model no; oem number; herstellernummer; hersteller nr; herstellerartikelnummer; référence fabricant
gtin | gtin | gtin; barcode; ean; upc; ean code; ean 13; ean13; gtin 13; gtin14; upc code; bar code; ean nummer; ean upc; strichcode; international article number; code barres; código de barras; codice a barre
isbn | isbn | isbn; isbn 13; isbn 10; isbn13; isbn10; isbn number
category | text | category; product category; category path; section; department; product type; range; category name; breadcrumb; kategorie; warengruppe; kategoriepfad; produktgruppe; catégorie; rubrique; categoria; categoría; categorie; rayon; subject; genre; item group; goods group; product family group; subcategory
color | text | color; colour; colour name; color name; shade; farbe; farbton; couleur; coloris; colore; kleur
size | text | size; size name; size label; size code; größe; groesse; grosse; konfektionsgröße; taille; talla; taglia; maat; fits; fit
material | text | material; made of; fabric; material composition; materials; composition; stoff; werkstoff; matière; matériau; materiale; materiaal
pattern | text | pattern; design; pattern name; print; muster; motif
condition | text | condition; item condition; state; zustand; état; condizione
price | money | price; selling price; unit price; retail price; sales price; our price; price incl vat; price inc vat; price gross; gross price; current price; now price; shop price; web price; preis; verkaufspreis; vk; vk brutto; bruttopreis; prix; prix de vente; prix ttc; precio; prezzo; prijs; verkoopprijs; retail; sell price; selling; each; price each; base price; sell at; till price; consumer price
list_price | money | list price; rrp; srp; recommended price; msrp; recommended retail price; uvp; unverbindliche preisempfehlung; listenpreis; prix conseillé; adviesprijs
was_price | money | was price; was; old price; previous price; price was; price before; original price; regular price; normal price; alter preis; streichpreis; ancien prix; prix barré
sale_price | money | sale price; offer price; offer; special price; promotional price; promo price; reduced price; discount price; discounted price; aktionspreis; sonderpreis; angebotspreis; prix promo; prix soldé
sale_from | date | sale from; sale start; offer from; special from; special price from; sale start date; promotion start; promo from; aktion von; angebot ab
sale_until | date | sale until; sale end; sale to; offer until; offer to; special to; special price to; sale end date; promotion end; promo until; aktion bis; angebot bis
tax_rate | decimal | tax rate; vat; vat rate; tax; vat percent; tax percent; mwst; mwst satz; ust; steuersatz; tva; taux tva; iva; btw; percent vat; vat percentage
cost | money | cost; cost price; purchase price; buying price; net cost; trade price; wholesale price; dealer price; unit cost; einkaufspreis; ek; ek netto; prix d achat; inkoopprijs; dealer; dealer net; trade; buying
quantity | integer | quantity; qty; stock; in stock; stock level; stock qty; stock quantity; on hand; inventory; stock on hand; available quantity; available; units; free stock; bestand; lagerbestand; menge; verfügbar; anzahl; stück; quantité; stock disponible; cantidad; quantità; voorraad; aantal; how many; count; number in stock; pieces; amount
availability | text | availability; availability status; stock status; availability text; verfügbarkeit; lieferstatus; disponibilité
available_from | date | available from; release date; available date; back in stock on; back on; back in stock; expected date; lieferbar ab; verfügbar ab; disponible le; next delivery; due; due date; eta; next in; arriving; restock date; delivery due
images | url* | images; image; image url; image urls; picture; picture url; pictures; photo; photos; main image; extra images; further images; additional images; image link; image links; gallery; bild; bilder; bild url; bildadresse; image principale; foto; immagine; afbeelding
url | url | url; link; product url; page; product page; web address; page url; product link; webseite; produktseite; lien; web page
weight | measure | weight; net; item weight; net weight; weight net; product weight; gewicht; nettogewicht; poids; poids net; peso
width | measure | width; item width; product width; breite; largeur; ancho; larghezza; breedte
height | measure | height; item height; product height; höhe; hoehe; hauteur; alto; altezza; hoogte
depth | measure | depth; length; item depth; product depth; item length; product length; tiefe; länge; laenge; profondeur; longueur; lengte; diepte
package_weight | measure | package weight; gross; boxed; shipping weight; gross weight; parcel weight; delivery weight; packed weight; weight gross; boxed weight; bruttogewicht; versandgewicht; paketgewicht; poids brut; poids colis
package_width | measure | package width; shipping width; parcel width; carton width; box width; paketbreite
package_height | measure | package height; shipping height; parcel height; carton height; box height; pakethöhe
package_depth | measure | package depth; shipping depth; parcel depth; parcel length; carton length; shipping length; package length; box length; paketlänge
country_of_origin | text | country of origin; origin; made in; country of manufacture; origin country; country; ursprungsland; herkunftsland; pays d origine; origine; paese di origine
hazard | text | hazard; hazardous; dangerous goods; hazard class; un number; gefahrgut; gefahrgutklasse
battery | text | battery; batteries; battery type; contains battery; batterie; akku
age_group | text | age group; age; ages; recommended age; altersgruppe
gender | text | gender; sex; for whom; geschlecht; genre
unit_quantity | measure | unit quantity; contents; content; net content; unit amount; pack content; inhalt; füllmenge; contenance; contenu
digital | yes-no | digital; is digital; download; digital product; virtual; downloadable
first_image | url | first image; lead image; lead picture; cover image; cover picture; hero image; titelbild
dispatch_days | integer | dispatch days; days to dispatch; handling time; handling days; lead time; lead time days; dispatch time; lieferzeit in tagen; bearbeitungszeit
list_on | text* | list on; sell on; channel list; verkaufen auf
keep_off | text* | keep off; not on; do not list on; exclude from; nicht auf
sell_in | text* | sell in; countries; sold in; allowed countries; sales countries; verkauf in
bundle_of | text* | bundle of; parts; bundle; kit contents; set of; components; bundle items; consists of
`;

const entries: readonly VocabularyEntry[] = table
  .trim()
  .split("\n")
  .map((line) => {
    const [name = "", kind = "", synonyms = ""] = line.split("|").map((cell) => cell.trim());
    return {
      name,
      kind: kind.replace("*", "") as Kind,
      list: kind.endsWith("*"),
      synonyms: synonyms.split("; ").map(fold).filter(Boolean),
    };
  });

const byName = new Map(entries.map((entry) => [entry.name, entry]));
const bySynonym = new Map(
  entries.flatMap((entry) => [
    [entry.name.replaceAll("_", " "), entry.name] as const,
    ...entry.synonyms.map((synonym) => [synonym, entry.name] as const),
  ]),
);

/** What a shop calls the price before a reduction: no attribute of ours, since `price` holds it. */
export const WAS_PRICE = "was_price";

/** Names of the master catalogue's own attributes, after schema.org and GS1. */
export const vocabulary: readonly string[] = entries
  .map((entry) => entry.name)
  .filter((name) => name !== WAS_PRICE);

const known = new Set(vocabulary);

/** Whether an attribute is one of the vocabulary's, with a language or currency or without. */
export const isOurs = (attribute: string): boolean => known.has(attribute.split("@", 1)[0] ?? attribute);

const axes = new Set(
  "color size material pattern condition age_group gender weight width height depth unit_quantity".split(" "),
);

/** Whether members of a group can differ in an attribute as a buyer's choice. */
export const canBeAxis = (attribute: string): boolean => axes.has(attribute.split("@", 1)[0] ?? attribute);

/** Every usual column name, folded, with the attribute that it stands for. */
export const columnSynonyms: ReadonlyMap<string, string> = bySynonym;

const userAttribute: AttributeKind = { kind: "text", list: false };

/** `name@de` is the name in German, `price@EUR` the price in euro: both have the kind of the name before the `@`. */
export const attributeKind = (attribute: string): AttributeKind => {
  const at = attribute.indexOf("@");
  return byName.get(at < 0 ? attribute : attribute.slice(0, at)) ?? userAttribute;
};

/** The attribute that a folded column name usually stands for; undefined when none is known. */
export const attributeForColumn = (foldedColumn: string): string | undefined => bySynonym.get(foldedColumn);

const attributeName = /^[a-z][a-z0-9_]*(@[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*)?$/;

/** Attribute names are snake_case, with an optional language or currency after `@`. */
export const isAttributeName = (name: string): boolean => attributeName.test(name);
