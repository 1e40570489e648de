/** Joins a record's texts in one stored text; cleaned cells cannot hold it. */
export const TEXT_SEPARATOR = "\u001f";
