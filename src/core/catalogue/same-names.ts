/**
 * Names by which an attribute itself is called, in ten languages: what options and lists of facts are called is held against
 * these alone. A column's usual names (`vocabulary.ts`) say more than that: a column Length is a depth among sides of a box,
 * an option Length is the length of a cord.
 */
import { fold } from "../values/text.js";
import { vocabulary } from "./vocabulary.js";

const table = `
color | color; colour; colors; colours; farbe; farben; couleur; couleurs; colore; colori; colores; cor; kleur; kolor; färg; farge; farve; väri; barva; szín
size | size; sizes; größe; grösse; größen; groesse; taille; talla; taglia; tamanho; maat; rozmiar; storlek; størrelse; koko; velikost; méret
material | material; materials; materialien; matériau; matière; materiale; materiaal; materiał; materiál; materiaali; anyag
pattern | pattern; muster; motif; patrón; fantasia; patroon; wzór; mønster; mönster
condition | condition; zustand; état; estado; condizione; staat; stan; skick; tilstand
gender | gender; sex; geschlecht; sexe; sexo; sesso; geslacht; płeć; kön; køn
age_group | age group; altersgruppe; tranche d âge; grupo de edad; fascia d età; leeftijdsgroep; grupa wiekowa
weight | weight; gewicht; poids; peso; waga; vikt; vekt; vægt
width | width; breite; largeur; anchura; ancho; larghezza; breedte; szerokość; bredd; bredde
height | height; höhe; hauteur; altura; altezza; hoogte; wysokość; höjd; høyde; højde
depth | depth; tiefe; profondeur; profundidad; profondità; diepte; głębokość; djup; dybde
brand | brand; brand name; marke; marque; marca; merk; marka; varumärke
manufacturer | manufacturer; hersteller; fabricant; fabricante; produttore; fabrikant; producent; tillverkare
country_of_origin | country of origin; ursprungsland; herkunftsland; pays d origine; país de origen; paese di origine; land van herkomst; kraj pochodzenia
gtin | gtin; ean; ean code; ean nummer; upc; barcode; strichcode
mpn | mpn; manufacturer part number; herstellernummer; numéro du fabricant; kod producenta
name | name; title; titel; titre; título; titolo; nazwa
description | description; beschreibung; descripción; descrizione; beschrijving; opis
price | price; preis; prix; precio; prezzo; prijs; cena
images | images; image; bilder; bild; pictures; picture; fotos
`;

const byName = new Map<string, string>(vocabulary.map((attribute) => [fold(attribute), attribute]));
for (const line of table.trim().split("\n")) {
  const [attribute = "", names = ""] = line.split(" | ");
  for (const name of names.split("; ")) byName.set(fold(name), attribute);
}

/** The attribute of ours that is called by a name, in any of the languages; undefined where it means another thing, or none of ours. */
export const attributeCalled = (name: string): string | undefined => byName.get(fold(name));
