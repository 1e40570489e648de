/** Columns in twos: one names an attribute, or what members differ in, and the other holds its value. */
import { fold } from "../../values/text.js";
import type { SampleColumn } from "./sample-column.js";
import type { Combine, Combination } from "./combination.js";

const nameEnd = /^(.*?) ?\b(?:names?|titles?|labels?|is called)$/;

const valueEnd = /^(.*?) ?\b(?:value|values|is|setting|choice)$/;

const about =
  /\b(?:options?|attributes?|propert(?:y|ies)|variations?|variants?|features?|axis|axes|differs|specifications?|specs?|merkmale?|eigenschaft(?:en)?|attribut|traits?|kenmerk(?:en)?|caractéristiques?|características?|cech[ay])\b/;

/** Columns in twos: one names an attribute, the other holds its value. */
export const namedPairs: Combine = (columns) => {
  const found = columns.flatMap((column): readonly Combination[] => {
    const words = fold(column.column);
    if (!about.test(words)) return [];
    const stem = nameEnd.exec(words.replace(/ (\d+)$/, ""))?.[1];
    const number = / (\d+)$/.exec(words)?.[1];
    const isNumbered = /\d/.test(words);
    const partner = columns.find((other) => {
      const others = fold(other.column);
      if (other.column === column.column || / (\d+)$/.exec(others)?.[1] !== number) return false;
      const stemOf = valueEnd.exec(others.replace(/ (\d+)$/, ""))?.[1];
      return (
        stemOf !== undefined &&
        (stemOf === stem || (stem === undefined && isNumbered && stemOf === words.replace(/ (\d+)$/, "")))
      );
    });
    if (partner === undefined) return [];
    return [
      { attributes: [], pairs: [{ name: column.column, value: partner.column }], used: [column, partner] },
    ];
  });
  return found;
};

/** Columns in twos by what they hold: words for what members differ in, and beside each its value. */
export const axisPairs: Combine = (columns) => {
  const names = columns.filter(
    ({ shape, name }) =>
      shape.filled > 0 && shape.axisName > 0.7 && (name.attribute === undefined || name.certainty < 0.9),
  );
  const taken = new Set<SampleColumn>();
  const found = names.flatMap((name): readonly Combination[] => {
    const value = columns.find(({ index }) => index === name.index + 1);
    if (value === undefined || names.includes(value) || value.shape.filled === 0) return [];
    taken.add(name).add(value);
    return [{ attributes: [], pairs: [{ name: name.column, value: value.column }], used: [name, value] }];
  });
  // A second pair of the same words with another number may be blank in the first rows.
  const stem = (column: string): string => fold(column).replace(/ ?\d+$/, "");
  const further = columns.flatMap((name): readonly Combination[] => {
    const value = columns.find(({ index }) => index === name.index + 1);
    const isLike = found.some(
      ({ used: [n, v] }) =>
        n !== undefined &&
        v !== undefined &&
        stem(n.column) === stem(name.column) &&
        stem(v.column) === stem(value?.column ?? ""),
    );
    if (value === undefined || taken.has(name) || !isLike) return [];
    return [{ attributes: [], pairs: [{ name: name.column, value: value.column }], used: [name, value] }];
  });
  return [...found, ...further];
};
