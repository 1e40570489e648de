/**
 * The attributes of the master catalogue, by the terms of schema.org and GS1, with the kind of each.
 * `docs/vocabulary.md` is the crosswalk.
 */
import { fold } from "../values/text.js";
import type { AttributeKind, KindOf } from "../values/attribute-kind.js";
import type { Kind } from "../values/value.js";

interface VocabularyEntry extends AttributeKind {
  readonly name: string;
  readonly synonyms: readonly string[];
}

// name | kind (a trailing * means several) | other usual column names, folded
const table = `
sku | text | sku; item number; item no; item code; article; article number; article no; article code; product code; product number; product no; product id; stock code; stock no; sku code; seller sku; our sku; variant sku; stock keeping unit; reference; ref; part code; artikelnummer; artikel nr; artikel; art nr; artnr; bestellnummer; référence; reference article; code article; codigo; código; codice; numero articolo; artikelcode; item; internal number; internal code; referencia; referencja; kod; kod produktu; numer artykułu; nr artykułu; indeks; symbol; productcode; bestelnummer; codice articolo; código de artículo; nº de artículo; clave; our ref; our no; our number; our code; number; no; nr; code; id; ident; plu; art; art no; article ref; line code; line no; réf; ref no; référence interne; stock ref; product ref; catalogue no; catalogue number; cat no; order no; order number; order code; bestellnr; bestell nr; material number; matnr; numéro; numéro d article; artikelno; ref article; réf article; numéro article; número de artículo; codice prodotto; codice articolo interno; nr katalogowy; artikel nummer; stk nr
group | text | group; parent sku; parent; parent id; parent code; family; fam; family code; product group; product family; variant group; style; style number; style no; style code; model group; master sku; master; group id; group code; hauptartikel; vaterartikel; variantengruppe; parent reference; modèle; belongs to; parent article; part of range; range code; parent product; model; modelo; modell; modello; group no; reeks; serie; série; parent article no; belongs to group; gruppe; groupe; grupo; grupa; groep; parent id no; main article; stammartikel; hoofdartikel; artículo padre; model no of parent; series
varies_by | text* | varies by; variation axes; variation axis; options; varianten nach; differs by
name | text | name; title; product name; item name; article name; product title; item title; short description; designation; listing title; bezeichnung; artikelbezeichnung; titel; produktname; artikelname; nom; nom du produit; titre; désignation; libellé; nombre; titolo; nome; naam; productnaam; omschrijving; heading; goods; item description; what it is; short name; label text; what; product; produkt; producto; prodotto; nazwa; nazwa produktu; nazwa towaru; tytuł; nombre del producto; título; titulo; denominación; descripción corta; artículo; artikelomschrijving; artikeltekst; kurztext; artikeltext; kurzbezeichnung; benennung; short text; short; short desc; intitulé; libellé produit; product text; line description; goods name; weinname; wine; what is it; caption; headline; desc; descr; text short; display name; pieza; pièce; piece name; denominación comercial; descrizione breve; nombre corto; libellé court; korte omschrijving; headline text
description | html | description; long description; product description; item description; long text; body; text; details; full description; description html; beschreibung; produktbeschreibung; langtext; artikelbeschreibung; description longue; descripción; descrizione; beschrijving; long; long desc; full text; opis; opis produktu; długi opis; descripción larga; texto largo; lange omschrijving; uitgebreide omschrijving; omschrijving lang; descriptif; texte; texte long; présentation; text long; web text; copy; product text long; more; notes for customers; beschreibungstext; produkttext; body text; story; info; information; infos; produktinfo; tekst; texto; testo; tekst opisowy; produkttekst; blurb; synopsis; teaser text; testo lungo; descrizione lunga; descrizione estesa; descripción completa; description complète; long omschrijving
features | text* | features; bullet points; bullets; bullet; feature; key features; highlights; selling points; merkmale; eigenschaften; points forts; voordelen; kenmerken; cechy; ventajas; características; avantages; vorteile; highlight
keywords | text* | keywords; search words; search terms; tags; keyword; suchbegriffe; schlagworte; mots clés; palabras clave; zoekwoorden; trefwoorden; słowa kluczowe; such wörter
brand | text | brand; brand name; make; marke; markenname; marque; marca; merk; brand label; marka; hausmarke; merknaam; maison; house brand; markenname hersteller
manufacturer | text | manufacturer; maker; producer; manufacturer name; vendor; supplier name; hersteller; herstellername; fabricant; produttore; fabricante; fabrikant; vendor name; supplier; made by; manufactured by; producent; producer name; produzent; lieferant; leverancier; fournisseur; proveedor; dostawca; erzeuger; maker name; house; manufacturer brand; factory; producteur; productrice; productor; fabrikant naam; produzent hersteller
mpn | text | mpn; manufacturer part number; part number; maker s number; maker s no; part no; manufacturer code; manufacturer number; manufacturer no; supplier code; supplier part number; model number; model no; oem number; herstellernummer; hersteller nr; herstellerartikelnummer; référence fabricant; maker number; maker no; makers number; makers no; maker s part no; maker s part number; maker s ref; maker s reference; maker s code; makers part no; makers reference; supplier article; supplier article no; supplier item; supplier sku; supplier ref; supplier reference; supplier number; lieferantenartikelnummer; lieferanten artikelnr; referencia del fabricante; kod producenta; numer producenta; fabrikantcode; leveranciersartikelnummer; réf fournisseur; référence fournisseur; herst nr; part; part nr; oem; factory code; vendor item; vendor part; ref fabricante; ref del fabricante; ref fabricant; réf fabricant; ref fournisseur; art nr hersteller; hersteller artikelnummer; teilenr; teile nr; teilenummer; codice produttore; codice fornitore; réf constructeur; référence constructeur; número de fabricante; onderdeelnummer; nr części; hersteller art nr; maker ref
gtin | gtin | gtin; barcode; ean; upc; ean code; ean 13; ean13; gtin 13; gtin14; upc code; bar code; ean nummer; ean upc; strichcode; international article number; code barres; código de barras; codice a barre; gtin13; gtin 8; ean no; ean number; ean8; ean 8; streepjescode; kod kreskowy; kod ean; gencod; gencode; code ean; codigo ean; codice ean; barcode no; barcode number; bar code no; bar code number; barcode 1; ean13 code; code à barres
isbn | isbn | isbn; isbn 13; isbn 10; isbn13; isbn10; isbn number
category | text | category; product category; category path; section; department; product type; range; category name; breadcrumb; kategorie; warengruppe; kategoriepfad; produktgruppe; catégorie; rubrique; categoria; categoría; categorie; rayon; subject; genre; item group; goods group; product family group; subcategory; product category path; kategoria; kategorie pfad; rubriques; rayons; gamme; famille; famille de produits; sección; familia; dział; afdeling; productgroep; artikelgroep; hoofdgroep; sortiment; sortimentsgruppe; warengruppen; dept; department name; shop section; web category; categories; kategorien; catégories; categorías; categorieën; kategorie name; material group; goods group name; product line; type of goods; collection; main group; hauptgruppe; class; classification; klasse
color | text | color; colour; colour name; color name; shade; farbe; farbton; couleur; coloris; colore; kleur; kolor; colours; farben; couleurs; farbe name; kleuren; tint; finish colour; barwa; kolor produktu; tinte
size | text | size; size name; size label; size code; größe; groesse; grosse; konfektionsgröße; taille; talla; taglia; maat; fits; fit; rozmiar; tamaño; grootte; sizes; größen; misura; pointure; schuhgröße; maten; fits size
material | text | material; made of; fabric; material composition; materials; composition; stoff; werkstoff; matière; matériau; materiale; materiaal; materiał; tejido; tela; stof; materiau; tkanina; werkstoffe; wood; holz; bois
pattern | text | pattern; design; pattern name; print; muster; motif
condition | text | condition; item condition; state; zustand; état; condizione; estado; staat; conditie
price | money | price; selling price; unit price; retail price; sales price; our price; price incl vat; price inc vat; price gross; gross price; current price; now price; shop price; web price; preis; verkaufspreis; vk; vk brutto; bruttopreis; prix; prix de vente; prix ttc; precio; prezzo; prijs; verkoopprijs; retail; sell price; selling; each; price each; base price; sell at; till price; consumer price; now; retail incl vat; sale at; for sale at; sells at; shop; cena; cena brutto; cena sprzedaży; pvp; precio de venta; precio con iva; precio venta público; pvc; prix public; prix de vente ttc; prijs incl btw; consumentenprijs; winkelprijs; endpreis; ladenpreis; brutto vk; vk preis; preis brutto; verkaufspreis brutto; price inc tax; price with vat; web; online price; ticket price; price to customer; sell; retail price incl vat; prix unitaire ttc; preis je stück; stückpreis; selling price incl vat; web prices; list web price; sp; consumer; consumer price incl vat; customer price; public; public price; end price; shop retail
list_price | money | list price; rrp; srp; recommended price; msrp; recommended retail price; uvp; unverbindliche preisempfehlung; listenpreis; prix conseillé; adviesprijs; rrp incl vat; srp price; recommended; recommended retail; suggested price; suggested retail; empf vk; empfohlener vk; empfohlener verkaufspreis; unverb preisempf; preisempfehlung; precio recomendado; pvp recomendado; cena sugerowana; cena katalogowa; prix public conseillé; catalogusprijs; retail recommended; msrp price; list; rek price; listenpreise; uvp rrp; ppc; prix de vente conseillé; pvp recomendado con iva; pvpr; prezzo di listino; prezzo consigliato; precio de catálogo; precio de venta recomendado; advies verkoopprijs; brutto vk; vk empfehlung; katalogpreis; cena detaliczna sugerowana; rec price; recommended retail price rrp
was_price | money | was price; was; old price; previous price; price was; price before; original price; regular price; normal price; alter preis; streichpreis; ancien prix; prix barré; regular; normal; before; before price; strike price; old; vorher; statt; statt preis; prix avant; precio anterior; antes; cena poprzednia; stara cena; oude prijs; van prijs; crossed out price; precio tachado
sale_price | money | sale price; offer price; offer; special price; promotional price; promo price; reduced price; discount price; discounted price; aktionspreis; sonderpreis; angebotspreis; prix promo; prix soldé; sale; reduced; now reduced; aktion; angebot; precio oferta; oferta; precio rebajado; cena promocyjna; promocja; actieprijs; aanbieding; prix réduit; prix remisé; rebajado
sale_from | date | sale from; sale start; offer from; special from; special price from; sale start date; promotion start; promo from; aktion von; angebot ab; offer starts; valid from; gültig von; gültig ab; promo du; desde; od dnia; actie vanaf; reduced from; offer valid from
sale_until | date | sale until; sale end; sale to; offer until; offer to; special to; special price to; sale end date; promotion end; promo until; aktion bis; angebot bis; offer ends; valid until; valid to; gültig bis; promo au; hasta; do dnia; actie tot; reduced until; offer valid until
tax_rate | decimal | tax rate; vat; vat rate; tax; vat percent; tax percent; mwst; mwst satz; ust; steuersatz; tva; taux tva; iva; btw; percent vat; vat percentage; stawka vat; tipo de iva; tipo iva; btw tarief; btw percentage; taux de tva; vat code percent; mehrwertsteuer; umsatzsteuer; tax percentage; vat pct
cost | money | cost; cost price; purchase price; buying price; net cost; trade price; wholesale price; dealer price; unit cost; einkaufspreis; ek; ek netto; prix d achat; inkoopprijs; dealer; dealer net; trade; buying; net price; price net; trade price ex vat; ex works; ex vat; nett; our cost; cost each; cost net; buy price; buy; buying price net; einstandspreis; ek preis; nettopreis; netto preis; preis netto; haek; händlerpreis; prix net; prix ht; tarif ht; tarif; prix d achat ht; precio de coste; precio coste; coste; precio neto; cena netto; cena zakupu; cena hurtowa; inkoop; inkoopprijs excl btw; nettoprijs; groothandelsprijs; wholesale; dealer cost; landed cost; last cost; trade net; trade ex vat; list trade; net trade; wholesale net; inköp; inkop; preis st netto; costo; prezzo netto; purchase; purchasing; einkauf; achat; compra; zakup; tarif net; prix d achat net; prezzo d acquisto; precio de compra; netto prijs; prix net ht; händler ek; hek; haendler ek; prix revendeur; prezzo rivenditore
quantity | integer | quantity; qty; stock; in stock; stock level; stock qty; stock quantity; on hand; inventory; stock on hand; available quantity; available; units; free stock; bestand; lagerbestand; menge; verfügbar; anzahl; stück; quantité; stock disponible; cantidad; quantità; voorraad; aantal; how many; count; number in stock; pieces; amount; free; counted; on hand qty; qty on hand; qoh; soh; stock free; free qty; qty free; stock count; existencias; unidades; stan; stan magazynowy; ilość; dostępne; lager; lagerstand; lagermenge; restbestand; verfügbare menge; beschikbaar; vrije voorraad; aantal beschikbaar; dispo; disponible; stock dispo; en stock; qté; qty available; plant stock; warehouse stock; stock now; left; pieces left; in store; units in stock; available units; on the shelf; giacenza; disponibilità quantità; copies; stück auf lager; counted stock; stocks; disponibilità pezzi; depot; na stanie; op voorraad; voorradig; anzahl lager; pièces; pezzi
availability | text | availability; availability status; stock status; availability text; verfügbarkeit; lieferstatus; disponibilité; available status; dostępność; disponibilidad; beschikbaarheid; verfügbar status; status stock; availability note
available_from | date | available from; release date; available date; back in stock on; back on; back in stock; expected date; lieferbar ab; verfügbar ab; disponible le; next delivery; due; due date; eta; next in; arriving; restock date; delivery due; next due; due in; expected; expected on; verwacht; verwacht op; erwartet; erwartet am; available on; dostępne od; disponible desde; leverbaar vanaf; wieder da; wieder lieferbar; back; réassort; prochaine arrivée; restock; next arrival; arrives; neu ab; neu seit; nouveau dès; nuovo dal; nuevo desde; nieuw vanaf; new from; in stock from
images | url* | images; image; image url; image urls; picture; picture url; pictures; photo; photos; main image; extra images; further images; additional images; image link; image links; gallery; bild; bilder; bild url; bildadresse; image principale; foto; immagine; afbeelding; zdjęcie; zdjęcia; obraz; imagen; imágenes; foto s; fotos; afbeeldingen; bilder url; bild1; image1; picture 1; media; media file; illustrations; main picture; picture link; picture links; photo url; photo link; pic; pics; img; imgs; product image; product images; produktbild; produktbilder; visuel; visuels
url | url | url; link; product url; page; product page; web address; page url; product link; webseite; produktseite; lien; web page; adres strony; enlace; url produktu; product pagina; produktseite url; web link; shop link; deep link
weight | measure | weight; net; item weight; net weight; weight net; product weight; gewicht; nettogewicht; poids; poids net; peso; waga; waga netto; peso neto; gewicht netto; netto gewicht; masa; item wt; wt; weight each; unit weight; product wt
width | measure | width; item width; product width; breite; largeur; ancho; larghezza; breedte; szerokość; anchura; ancho producto; larg; b; w; breit
height | measure | height; item height; product height; höhe; hoehe; hauteur; alto; altezza; hoogte; wysokość; altura; haut; hauteur produit; h; hoch
depth | measure | depth; length; item depth; product depth; item length; product length; tiefe; länge; laenge; profondeur; longueur; lengte; diepte; głębokość; długość; fondo; profundidad; largo; longitud; prof; d; t; lengte product
package_weight | measure | package weight; gross; boxed; shipping weight; gross weight; parcel weight; delivery weight; packed weight; weight gross; boxed weight; bruttogewicht; versandgewicht; paketgewicht; poids brut; poids colis; waga brutto; peso bruto; gewicht brutto; brutto gewicht; brutogewicht; gross wt; shipping wt; parcel wt; outer weight; weight packed; weight with box; verzendgewicht; gewicht mit verpackung; box weight; packing weight
package_width | measure | package width; shipping width; parcel width; carton width; box width; paketbreite
package_height | measure | package height; shipping height; parcel height; carton height; box height; pakethöhe
package_depth | measure | package depth; shipping depth; parcel depth; parcel length; carton length; shipping length; package length; box length; paketlänge
country_of_origin | text | country of origin; origin; made in; country of manufacture; origin country; country; ursprungsland; herkunftsland; pays d origine; origine; paese di origine; país de origen; kraj pochodzenia; land van herkomst; land van oorsprong; herkunft; land; ursprung; pays; país; kraj; fabriqué en; hergestellt in; gemaakt in; coo; origin code
hazard | text | hazard; hazardous; dangerous goods; hazard class; un number; gefahrgut; gefahrgutklasse; hazmat; dangerous; peligroso; gevaarlijke stof; niebezpieczny; danger; hazard info
battery | text | battery; batteries; battery type; contains battery; batterie; akku; bateria; batterij; pile; accu
age_group | text | age group; age; ages; recommended age; altersgruppe; leeftijd; edad; wiek; âge; tranche d âge; ab alter; from age
gender | text | gender; sex; for whom; geschlecht; genre; sexo; geslacht; płeć; sexe
unit_quantity | measure | unit quantity; contents; content; net content; unit amount; pack content; inhalt; füllmenge; contenance; contenu; inhoud; zawartość; pojemność; contenido; capacity; volume; volumen; nettofüllmenge; content amount; pack size amount; net contents
digital | yes-no | digital; is digital; download; digital product; virtual; downloadable
first_image | url | first image; lead image; lead picture; cover image; cover picture; hero image; titelbild
dispatch_days | integer | dispatch days; days to dispatch; handling time; handling days; lead time; lead time days; dispatch time; lieferzeit in tagen; bearbeitungszeit; levertijd; levertijd dagen; lieferzeit; lieferzeit tage; délai de livraison; délai; plazo de entrega; czas dostawy; dni wysyłki; days to ship; delivery days; delivery time days; ships in days
list_on | text* | list on; sell on; channel list; verkaufen auf
keep_off | text* | keep off; not on; do not list on; exclude from; nicht auf
listed | yes-no | listed; is listed; list it
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

/** An attribute's name without its language or currency: `name` of `name@de`. */
export const withoutMark = (attribute: string): string => attribute.split("@", 1)[0] ?? attribute;

/** Whether an attribute is one of the vocabulary's, with a language or currency or without. */
export const isOurs = (attribute: string): boolean => known.has(withoutMark(attribute));

const axes = new Set(
  "color size material pattern condition age_group gender weight width height depth unit_quantity".split(" "),
);

/** Whether members of a group can differ in an attribute as a buyer's choice. */
export const canBeAxis = (attribute: string): boolean => axes.has(withoutMark(attribute));

/** Attributes that say which products there are and how they belong together: no channel sees other ones. */
export const tiesProducts: readonly string[] = ["sku", "group", "varies_by", "bundle_of"];

/** Attributes that say where a product is sold: one that is read by mistake takes goods off channels. */
export const saysWhere: readonly string[] = ["list_on", "keep_off", "listed", "sell_in"];

/** Every usual column name, folded, with the attribute that it stands for. */
export const columnSynonyms: ReadonlyMap<string, string> = bySynonym;

const userAttribute: AttributeKind = { kind: "text", list: false };

/** `name@de` is the name in German, `price@EUR` the price in euro: both have the kind of the name before the `@`. */
export function attributeKind(attribute: string): AttributeKind {
  const at = attribute.indexOf("@");
  return byName.get(at < 0 ? attribute : attribute.slice(0, at)) ?? userAttribute;
}

/** The same where a shop has said what kind its own attributes are. */
export function kindsWith(own: Readonly<Record<string, AttributeKind>>): KindOf {
  const kinds = new Map(Object.entries(own));
  return kinds.size === 0
    ? attributeKind
    : (attribute) => kinds.get(withoutMark(attribute)) ?? attributeKind(attribute);
}

/** The attribute that a folded column name usually stands for; undefined when none is known. */
export const attributeForColumn = (foldedColumn: string): string | undefined => bySynonym.get(foldedColumn);

/** {@link isAttributeName} as a pattern. */
export const attributeName =
  /^[\p{Ll}\p{Lo}\p{Lm}][\p{Ll}\p{Lo}\p{Lm}\p{M}\p{N}_]*(@[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*)?$/u;

/** Attribute names are snake_case in letters of any script, with an optional language or currency after `@`. */
export const isAttributeName = (name: string): boolean => attributeName.test(name);
