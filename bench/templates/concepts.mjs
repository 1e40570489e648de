// @ts-nocheck -- the types of exceljs do not know the rules of cells
/**
 * What made-up channels ask for, in four languages: the vocabulary of the test templates. Written down from what sheets of
 * the trade ask in general; it knows nothing of how Lexicant reads them.
 */

/** A seeded stream of numbers below 1, so that the templates come out the same each time (mulberry32). */
export const stream = (seed) => {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
};

export const pick = (random, list) => list[Math.floor(random() * list.length)];

/** @type {(id: string, attribute: string | undefined, kind: string, labels: any, more?: any) => any} */
const c = (id, attribute, kind, labels, more = {}) => ({ id, attribute, kind, labels, ...more });
const l = (en, de, fr, es) => ({ en, de, fr, es });

// One a line, as a table.
// prettier-ignore
export const concepts = [
  c("sku", "sku", "text", l(["Seller reference", "Your item number", "Shop SKU"], ["Artikelnummer", "Eigene Artikelnr."], ["Référence vendeur", "Votre référence"], ["Referencia del vendedor", "Código propio"]), { length: [20, 60], example: ["BC-1301", "BC-2004"], need: "required" }),
  c("title", "name", "text", l(["Listing title", "Item headline", "Product name"], ["Titel", "Produktname"], ["Titre de l'annonce", "Nom du produit"], ["Título", "Nombre del producto"]), { length: [50, 150], example: ["Border spade, ash handle", "Copper smoker"], need: "required" }),
  c("text", "description", "text", l(["Long description", "Item description", "Full text"], ["Beschreibung", "Produktbeschreibung"], ["Description détaillée", "Description du produit"], ["Descripción", "Descripción larga"]), { length: [1000, 5000], example: ["A spade for narrow beds. Forged head.", "A smoker with a guard and leather bellows."] }),
  c("brand", "brand", "text", l(["Brand", "Brand name"], ["Marke", "Markenname"], ["Marque"], ["Marca"]), { length: [40, 70], example: ["Hollinside", "Tarnwell"] }),
  c("maker", "manufacturer", "text", l(["Manufacturer", "Made by"], ["Hersteller"], ["Fabricant"], ["Fabricante"]), { length: [50, 90], example: ["Hollinside Forge", "Tarnwell Ltd"] }),
  c("barcode", "gtin", "gtin", l(["Barcode (GTIN)", "GTIN", "EAN / UPC"], ["EAN", "GTIN / Strichcode"], ["Code-barres (EAN)", "GTIN"], ["Código de barras (EAN)", "GTIN"]), { example: ["5012345678900", "4006381333931"] }),
  c("part", "mpn", "text", l(["Maker's part number", "Manufacturer part number"], ["Hersteller-Teilenummer"], ["Référence fabricant"], ["Referencia del fabricante"]), { length: [30, 60], example: ["HS-440", "TW-9"] }),
  c("price", "price", "money", l(["Selling price", "Price"], ["Preis", "Verkaufspreis"], ["Prix de vente", "Prix"], ["Precio", "Precio de venta"]), { decimals: 2, example: ["49.00", "12.50"], need: "required" }),
  c("listprice", "list_price", "money", l(["Recommended retail price", "List price"], ["UVP", "Listenpreis"], ["Prix conseillé"], ["Precio recomendado"]), { decimals: 2, example: ["59.00", "15.00"] }),
  c("saleprice", "sale_price", "money", l(["Sale price", "Offer price"], ["Angebotspreis"], ["Prix promotionnel"], ["Precio de oferta"]), { decimals: 2, example: ["44.00", "10.00"] }),
  c("salefrom", "sale_from", "date", l(["Sale start date", "Offer starts on"], ["Angebot ab"], ["Début de la promotion"], ["Inicio de la oferta"]), { example: ["2027-03-01", "2027-04-01"] }),
  c("saleuntil", "sale_until", "date", l(["Sale end date", "Offer ends on"], ["Angebot bis"], ["Fin de la promotion"], ["Fin de la oferta"]), { example: ["2027-03-31", "2027-04-30"] }),
  c("stock", "quantity", "integer", l(["Quantity in stock", "Units available"], ["Bestand", "Lagerbestand"], ["Quantité en stock"], ["Cantidad en existencias"]), { min: 0, max: 9999, example: ["12", "40"], need: "required" }),
  c("state", "condition", "choice", l(["Condition", "Item state"], ["Zustand"], ["État de l'article"], ["Estado del artículo"]), { values: l(["New", "Used", "Refurbished"], ["Neu", "Gebraucht", "Generalüberholt"], ["Neuf", "Occasion", "Reconditionné"], ["Nuevo", "Usado", "Reacondicionado"]) }),
  c("shade", "color", "text", l(["Colour as sold", "Colour"], ["Farbe"], ["Couleur"], ["Color"]), { length: [30, 50], example: ["Forest", "Slate"] }),
  c("hue", "color", "choice", l(["Colour family", "Basic colour"], ["Farbgruppe", "Grundfarbe"], ["Famille de couleur"], ["Familia de color"]), { values: l(["Green", "Grey", "Red", "Blue", "Brown", "White", "Black", "Yellow"], ["Grün", "Grau", "Rot", "Blau", "Braun", "Weiß", "Schwarz", "Gelb"], ["Vert", "Gris", "Rouge", "Bleu", "Marron", "Blanc", "Noir", "Jaune"], ["Verde", "Gris", "Rojo", "Azul", "Marrón", "Blanco", "Negro", "Amarillo"]) }),
  c("size", "size", "choice", l(["Size", "Garment size"], ["Größe"], ["Taille"], ["Talla"]), { values: l(["XS", "S", "M", "L", "XL", "XXL"], ["XS", "S", "M", "L", "XL", "XXL"], ["XS", "S", "M", "L", "XL", "XXL"], ["XS", "S", "M", "L", "XL", "XXL"]) }),
  c("stuff", "material", "choice", l(["Main material", "Material"], ["Material", "Hauptmaterial"], ["Matière principale"], ["Material principal"]), { values: l(["Ash wood", "Steel", "Cotton", "Leather", "Copper", "Glass", "Plastic"], ["Esche", "Stahl", "Baumwolle", "Leder", "Kupfer", "Glas", "Kunststoff"], ["Frêne", "Acier", "Coton", "Cuir", "Cuivre", "Verre", "Plastique"], ["Fresno", "Acero", "Algodón", "Cuero", "Cobre", "Vidrio", "Plástico"]) }),
  c("weight", "weight", "measure", l(["Weight in kg", "Item weight (kg)"], ["Gewicht (kg)", "Gewicht in kg"], ["Poids (kg)"], ["Peso (kg)"]), { unit: "kg", decimals: 3, example: ["1.900", "0.450"] }),
  c("width", "width", "measure", l(["Width (cm)"], ["Breite (cm)"], ["Largeur (cm)"], ["Anchura (cm)"]), { unit: "cm", decimals: 1, example: ["18.0", "9.5"] }),
  c("height", "height", "measure", l(["Height (cm)"], ["Höhe (cm)"], ["Hauteur (cm)"], ["Altura (cm)"]), { unit: "cm", decimals: 1, example: ["105.0", "28.0"] }),
  c("depth", "depth", "measure", l(["Depth (cm)"], ["Tiefe (cm)"], ["Profondeur (cm)"], ["Profundidad (cm)"]), { unit: "cm", decimals: 1, example: ["8.0", "16.0"] }),
  c("picture", "images", "url", l(["Main picture", "Main image link"], ["Hauptbild", "Bild-URL"], ["Image principale"], ["Imagen principal"]), { example: ["https://brindlecote.example/p/1.jpg", "https://brindlecote.example/p/2.jpg"] }),
  c("pictures", "images", "url", l(["Further picture", "Extra image"], ["Zusatzbild", "Weiteres Bild"], ["Image supplémentaire"], ["Imagen adicional"]), { items: [3, 8], example: ["https://brindlecote.example/p/1b.jpg", "https://brindlecote.example/p/2b.jpg"] }),
  c("points", "features", "text", l(["Selling point", "Key feature"], ["Merkmal", "Vorteil"], ["Point fort"], ["Punto destacado"]), { items: [3, 5], length: [100, 250], example: ["Forged in one piece", "With a hook"] }),
  c("words", "keywords", "text", l(["Search terms", "Search words"], ["Suchbegriffe"], ["Mots clés"], ["Palabras clave"]), { length: [100, 250], example: ["spade garden bed", "smoker bees"] }),
  c("link", "url", "url", l(["Product page link", "Page address"], ["Produktseite (URL)"], ["Lien de la page"], ["Enlace de la página"]), { example: ["https://brindlecote.example/spade", "https://brindlecote.example/smoker"] }),
  c("origin", "country_of_origin", "choice", l(["Country of origin", "Made in"], ["Ursprungsland", "Herkunftsland"], ["Pays d'origine"], ["País de origen"]), { values: l(["GB", "DE", "FR", "ES", "PT", "IT", "PL"], ["GB", "DE", "FR", "ES", "PT", "IT", "PL"], ["GB", "DE", "FR", "ES", "PT", "IT", "PL"], ["GB", "DE", "FR", "ES", "PT", "IT", "PL"]) }),
  c("battery", "battery", "yes-no", l(["Contains batteries", "Battery inside?"], ["Enthält Batterien", "Batterie enthalten?"], ["Contient des piles"], ["Contiene pilas"]), {}),
  c("hazard", "hazard", "yes-no", l(["Dangerous goods", "Hazardous?"], ["Gefahrgut"], ["Matières dangereuses"], ["Mercancía peligrosa"]), {}),
  c("ages", "age_group", "choice", l(["Age group"], ["Altersgruppe"], ["Tranche d'âge"], ["Grupo de edad"]), { values: l(["Adults", "Children", "Toddlers"], ["Erwachsene", "Kinder", "Kleinkinder"], ["Adultes", "Enfants", "Bébés"], ["Adultos", "Niños", "Bebés"]) }),
  c("days", undefined, "integer", l(["Days until dispatch", "Handling time in days"], ["Versandfertig in Tagen"], ["Délai d'expédition en jours"], ["Días hasta el envío"]), { min: 1, max: 30, example: ["2", "3"] }),
  c("warranty", undefined, "integer", l(["Warranty in months", "Guarantee (months)"], ["Garantie in Monaten"], ["Garantie en mois"], ["Garantía en meses"]), { min: 0, max: 120, example: ["24", "12"] }),
  c("tax", "tax_rate", "decimal", l(["VAT rate", "Tax percent"], ["Mehrwertsteuersatz"], ["Taux de TVA"], ["Tipo de IVA"]), { decimals: 1, min: 0, max: 30, example: ["20.0", "5.5"] }),
  c("carriage", undefined, "choice", l(["Delivery service", "Carrier band"], ["Versandart"], ["Mode de livraison"], ["Modo de envío"]), { values: l(["Letter", "Parcel", "Bulky parcel", "Pallet"], ["Brief", "Paket", "Sperrgut", "Palette"], ["Lettre", "Colis", "Colis encombrant", "Palette"], ["Carta", "Paquete", "Paquete voluminoso", "Palé"]) }),
  c("care", undefined, "text", l(["Care note", "How to look after it"], ["Pflegehinweis"], ["Conseil d'entretien"], ["Consejo de cuidado"]), { length: [120, 300], example: ["Wipe dry after use", "Empty when cold"] }),
  c("capacity", undefined, "measure", l(["Capacity (l)", "Volume in litres"], ["Fassungsvermögen (l)"], ["Contenance (l)"], ["Capacidad (l)"]), { unit: "l", decimals: 2, example: ["10.00", "1.50"] }),
  c("power", undefined, "measure", l(["Power (W)"], ["Leistung (W)"], ["Puissance (W)"], ["Potencia (W)"]), { unit: "W", decimals: 0, example: ["40", "12"] }),
  c("blade", undefined, "measure", l(["Blade length (mm)"], ["Klingenlänge (mm)"], ["Longueur de lame (mm)"], ["Longitud de la hoja (mm)"]), { unit: "mm", decimals: 0, example: ["180", "90"] }),
  c("author", undefined, "text", l(["Author", "Written by"], ["Autor"], ["Auteur"], ["Autor"]), { length: [60, 120], example: ["E. Thornbury", "M. Asker"] }),
  c("published", undefined, "date", l(["Publication date"], ["Erscheinungsdatum"], ["Date de parution"], ["Fecha de publicación"]), { example: ["2024-05-01", "2025-02-11"] }),
  c("pack", undefined, "integer", l(["Items in the pack", "Pieces per pack"], ["Stück pro Packung"], ["Pièces par lot"], ["Unidades por paquete"]), { min: 1, max: 500, example: ["1", "6"] }),
  c("family", "group", "text", l(["Family reference", "Variation group"], ["Variantengruppe"], ["Groupe de variantes"], ["Grupo de variantes"]), { length: [20, 40], example: ["FAM-12", "FAM-13"] }),
  c("axis", "varies_by", "choice", l(["Varies by"], ["Variiert nach"], ["Varie selon"], ["Varía por"]), { values: l(["Colour", "Size", "Colour and size"], ["Farbe", "Größe", "Farbe und Größe"], ["Couleur", "Taille", "Couleur et taille"], ["Color", "Talla", "Color y talla"]) }),
  c("film", undefined, "url", l(["Video link"], ["Video-Link"], ["Lien vidéo"], ["Enlace de vídeo"]), { example: ["https://brindlecote.example/v/1", "https://brindlecote.example/v/2"] }),
  c("season", undefined, "choice", l(["Season", "Time of year"], ["Saison"], ["Saison"], ["Temporada"]), { values: l(["Spring", "Summer", "Autumn", "Winter", "All year"], ["Frühling", "Sommer", "Herbst", "Winter", "Ganzjährig"], ["Printemps", "Été", "Automne", "Hiver", "Toute l'année"], ["Primavera", "Verano", "Otoño", "Invierno", "Todo el año"]) }),
  c("corner", "category", "choice", l(["Category", "Department"], ["Kategorie", "Warengruppe"], ["Catégorie", "Rayon"], ["Categoría", "Sección"]), { values: l(["Garden tools", "Beekeeping", "Seeds", "Books", "Clothing"], ["Gartengeräte", "Imkerei", "Saatgut", "Bücher", "Kleidung"], ["Outils de jardin", "Apiculture", "Semences", "Livres", "Vêtements"], ["Herramientas", "Apicultura", "Semillas", "Libros", "Ropa"]), need: "required" }),
];

const byId = new Map(concepts.map((one) => [one.id, one]));
const yesNo = { en: ["Yes", "No"], de: ["Ja", "Nein"], fr: ["Oui", "Non"], es: ["Sí", "No"] };

const needs = ["required", "required", "recommended", "optional", "optional"];

/** Codes as channels write them: of the concept, in one of several fashions. */
const codes = {
  snake: (id, prefix) => `${prefix}_${id}`,
  capitals: (id, prefix) => `${prefix}${id}`.toUpperCase(),
  camel: (id, prefix) => `${prefix}${id[0].toUpperCase()}${id.slice(1)}`,
  dotted: (id, prefix) => `${prefix}.${id}`,
};

/**
 * The fields of one made-up channel: what a template shows of each, and what is true of it.
 * `ids` are concepts; `code` is the fashion of its codes.
 */
export const fieldsOf = (ids, { language, seed, code = "snake", prefix = "it", needsFrom = needs }) => {
  const random = stream(seed);
  return ids.map((id) => {
    const concept = byId.get(id);
    if (concept === undefined) throw new Error(`no concept ${id}`);
    const between = ([from, to]) => Math.round((from + random() * (to - from)) / 10) * 10;
    const values = concept.kind === "yes-no" ? yesNo[language] : concept.values?.[language];
    const items =
      concept.items === undefined
        ? undefined
        : concept.items[0] + Math.floor(random() * (concept.items[1] - concept.items[0] + 1));
    const need = concept.need ?? pick(random, needsFrom);
    return {
      id,
      attribute: concept.attribute,
      code: codes[code](id, prefix),
      label: pick(random, concept.labels[language]),
      kind: concept.kind,
      need,
      ...(concept.length === undefined ? {} : { max_length: between(concept.length) }),
      ...(concept.decimals === undefined ? {} : { decimals: concept.decimals }),
      ...(concept.unit === undefined ? {} : { unit: concept.unit }),
      ...(concept.min === undefined ? {} : { min: concept.min, max: concept.max }),
      ...(values === undefined ? {} : { values }),
      ...(items === undefined ? {} : { max_items: items, list: true }),
      examples: values === undefined ? (concept.example ?? []) : [values[0], values[1]],
    };
  });
};

/** What is true of a field, without what only the template needs. */
export const truthOf = ({ examples, id, attribute, ...field }, shown = {}) => ({
  ...field,
  ...(attribute === undefined ? {} : { attribute }),
  ...shown,
});
