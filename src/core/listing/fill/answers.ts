import { fold } from "../../values/text.js";

/**
 * The attribute by which a person answers for one field of a channel, in a layer of that channel: what a gap sheet
 * asks where no attribute of the catalogue could give it. The answer stands over the field's fill. Its letters are plain
 * ones, so that answers of long ago are found.
 */
export function answerAttribute(field: string): string {
  const name = fold(field)
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "");
  return `answer_${/^[a-z]/.test(name) ? name : `column_${name}`}`;
}
