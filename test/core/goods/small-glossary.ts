import { goodRow, qualityRow } from "../../../src/core/goods/good-row.js";
import { openGlossary, type Glossary } from "../../../src/core/goods/glossary.js";
import { growGlossary } from "../../../src/core/goods/grow-glossary.js";
import { noGlossary, type GlossaryData } from "../../../src/core/goods/glossary-data.js";
import { kindsOfThings } from "../../../src/core/goods/kinds-of-things.js";

/** Rows as a person writes them: name | also | de | fr | kind of | part of | for | field. */
export const goodRows = (text: string) =>
  text
    .trim()
    .split("\n")
    .map((line, at) => {
      const [name, also, de, fr, kind_of, part_of, forWhom, field = ""] = line
        .split("|")
        .map((cell) => cell.trim());
      const cells: Readonly<Record<string, string | undefined>> = {
        name,
        also,
        de,
        fr,
        kind_of,
        part_of,
        for: forWhom,
      };
      return goodRow((column) => cells[column], field, { file: "tables/goods.csv", row: at + 2 });
    });

const goods = goodRows(`
  tool | tools | Werkzeug | outil | | | | garden
  spade | digging spade | Spaten | bêche | tool | | | garden
  garden fork | digging fork; fork | Grabegabel | | tool | | | garden
  cutting tool | | | | tool | | | garden
  secateurs | pruners; hand pruner | Gartenschere | sécateur | cutting tool | | | garden
  secateurs holster | | | | cutting tool | secateurs | | garden
  bean seed | | Bohnensamen | | seed | | | garden
  seed | seeds | Samen | | | | | garden
  clothing | clothes | Kleidung | | | | | clothing
  gloves | | Handschuh | gants | clothing | | | clothing
  work gloves | rigger gloves | Arbeitshandschuh | | gloves | | | clothing
  beekeeping gloves | bee gloves; gauntlets | Imkerhandschuh | | gloves | | bee | bees
  trousers | pants; dungarees | Hose | pantalon | clothing | | | clothing
  jumper | sweater; pullover | Pullover | pull | clothing | | | clothing
  girls' coat | | Mädchenmantel | | clothing | | girl | clothing
  coat | | Mantel | | clothing | | | clothing
  beehive | complete hive | Bienenstock | ruche | | | | bees
  smoker | bee smoker | Smoker | | | | | bees
  food smoker | smoker | Räucherofen | | | | | kitchen
  lamp | light | Lampe | lampe | | | | lighting
  table lamp | | Tischlampe | lampe de table | lamp | | | lighting
  head torch | | Stirnlampe | | lamp | | | lighting
  bird bath | | Vogeltränke | | | | | wildlife
  hair brush | | Haarbürste | | | | | beauty
  paint brush | | Malerpinsel | | | | | tools
  paint | | Farbe | | | | | tools
  shampoo | | Shampoo | | | | | beauty
  cup and saucer | | Tasse | | | | | kitchen
  jar lid | lid | Deckel | | | | | kitchen
  jar | | Glas | | | | | kitchen
`);

const qualities = [
  { name: "leather", also: "suede", de: "Leder", is_a: "material" },
  { name: "red", also: "scarlet", de: "rot", is_a: "colour" },
  { name: "burgundy", de: "weinrot", kind_of: "red", is_a: "colour" },
  { name: "child", also: "children; kids", de: "Kinder", is_a: "audience" },
  { name: "girl", also: "girls", de: "Mädchen", kind_of: "child", is_a: "audience" },
  { name: "men", also: "men's; gents", de: "Herren", is_a: "audience" },
].map((cells: Readonly<Record<string, string>>) => qualityRow((column) => cells[column]));

/** A dictionary of three nouns, sorted as it lies. */
export const fewNouns = kindsOfThings(
  [
    "glasshouse\t0>greenhouse>building",
    "pinafore\t0>apron>clothing,clothes;2>jumper,pinny>dress",
    "shovel\t0>shovel>hand tool>tool",
  ].join("\n"),
);

export const smallData: GlossaryData = growGlossary(noGlossary, goods, qualities).data;

export const smallGlossary: Glossary = openGlossary(smallData, fewNouns);
