import { LIST_SEPARATOR } from "../../core/catalogue/record.js";

/** Attributes in which members of a group usually differ. */
export const usualAxes: readonly string[] = ["color", "size", "material", "pattern"];

/**
 * Watches members of groups pass by, and tells when two of one group have the same values of their axes. Members of a
 * group stand together in most files, so that one group at a time is remembered.
 */
export const axisWatch = (): ((
  group: string,
  textAt: (attribute: string) => string | undefined,
) => boolean) => {
  const seen = new Set<string>();
  let current = "";
  return (group, textAt) => {
    if (group !== current) {
      current = group;
      seen.clear();
    }
    const named = textAt("varies_by")?.split(LIST_SEPARATOR).filter(Boolean) ?? usualAxes;
    const values = named.map((axis) => textAt(axis) ?? "");
    if (values.every((value) => value === "")) return false;
    const key = values.join(LIST_SEPARATOR);
    const isTwice = seen.has(key);
    seen.add(key);
    return isTwice;
  };
};
