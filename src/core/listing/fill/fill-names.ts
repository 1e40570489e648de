/**
 * Names that fills know beside attributes: the channel's fields, language, category. They have slots of their own kind.
 */
import type { AttributeIndex } from "../../catalogue/attribute-index.js";
import { fieldNamed, type ChannelDefinition } from "../../channel/definition.js";
import type { Field } from "../../channel/field.js";
import { attributeShape, resultKind, type Shape } from "../../language/kind.js";
import { namesOf, type FoundName, type Names } from "../../language/names.js";

/** Names that fills know beside the catalogue's attributes. Their slots lie below those of attributes. */
export const ownNames = {
  /** What the farther fill gives, which this one stands in for. */
  usual: { slot: -1, kind: "any" },
  /** The member's values of what its group varies by, in that order. */
  axis_values: { slot: -2, kind: "list" },
  /** The most that the field takes in this category: characters of a text, values of a list, the amount of a number. */
  most_allowed: { slot: -3, kind: "number" },
  /** Pictures of the group: its own, or those of all its members. */
  group_images: { slot: -4, kind: "list" },
} as const satisfies Readonly<Record<string, FoundName>>;

// An attribute in a language that no product has yet: blank, until one does.
const UNUSED = -50;

const FIELDS_BELOW = -100;

const languages = new Intl.DisplayNames("en", { type: "language", fallback: "none" });

function isLanguage(tag: string): boolean {
  try {
    return languages.of(tag) !== undefined;
  } catch {
    return false;
  }
}

/** `name@de` where no product has a German name yet: it counts as blank, so that fills can be written before the words come. */
function inUnusedLanguage(name: string, known: Names): FoundName | undefined {
  const [base = "", tag] = name.split("@");
  const found = tag === undefined || !/^[a-z]/.test(tag) || !isLanguage(tag) ? undefined : known.find(base);
  return found === undefined || (found.kind !== "text" && found.kind !== "list")
    ? undefined
    : { ...found, slot: UNUSED };
}

const inLanguage = /[\p{L}_][\p{L}\p{N}_]*@[a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*/gu;

/** The attributes in a language that a fill names and no product has. */
export function unusedLanguages(fill: string, names: Names): readonly string[] {
  return [
    ...new Set(
      [...fill.matchAll(inLanguage)]
        .map(([name]) => name)
        .filter((name) => names.find(name)?.slot === UNUSED),
    ),
  ];
}

/** The slot by which a fill reads another field, and back. */
export const slotOfField = (field: Field): number => FIELDS_BELOW - field.slot;
/** The field that a slot stands for; undefined for an attribute's. */
export const fieldAtSlot = (slot: number): number | undefined =>
  slot <= FIELDS_BELOW ? FIELDS_BELOW - slot : undefined;

const fieldShape = ({ kind, list, unit }: Field): Shape => ({
  kind: resultKind(kind, list),
  ...(unit === undefined ? {} : { dimension: unit.dimension }),
});

/** The catalogue's attributes as names for expressions. */
export function attributeNames(attributes: AttributeIndex): Names {
  return namesOf(
    "attribute",
    attributes.names.map((name, slot) => ({
      name,
      ...attributeShape(name, attributes.kinds[slot] ?? { kind: "text", list: false }),
    })),
  );
}

/** Attributes, the fills' own names, and the channel's fields. */
export function fillNames(attributes: AttributeIndex, definition: ChannelDefinition): Names {
  const known = attributeNames(attributes);
  const own = new Map<string, FoundName>(Object.entries(ownNames));
  return {
    what: "attribute",
    all: [...known.all, ...own.keys()],
    find: (name) => own.get(name) ?? known.find(name) ?? inUnusedLanguage(name, known),
    field(code) {
      const field = fieldNamed(definition, code);
      return field === undefined ? undefined : { slot: slotOfField(field), ...fieldShape(field) };
    },
    fields: definition.fieldNames.all,
  };
}
