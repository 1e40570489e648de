import { axesIn, usualAxes, VARIES_BY } from "../../core/catalogue/axes.js";
import { listText } from "../../core/catalogue/list-text.js";

/**
 * Watches members of groups pass by, and tells when two of one group have the same values of their axes. Members of a
 * group stand together in most files, so that one group at a time is remembered.
 */
export function axisWatch(): (group: string, textAt: (attribute: string) => string | undefined) => boolean {
  const seen = new Set<string>();
  let current = "";
  return (group, textAt) => {
    if (group !== current) {
      current = group;
      seen.clear();
    }
    const stated = textAt(VARIES_BY);
    const named = stated === undefined ? usualAxes : axesIn(stated);
    const values = named.map((axis) => textAt(axis) ?? "");
    if (values.every((value) => value === "")) return false;
    const key = listText(values);
    const isTwice = seen.has(key);
    seen.add(key);
    return isTwice;
  };
}
