import { ownAttribute } from "../../catalogue/own-attribute.js";

/**
 * The attribute by which a person answers for one field of a channel, in a layer of that channel: what a gap sheet
 * asks where no attribute of the catalogue could give it. The answer stands over the field's fill.
 */
export const answerAttribute = (field: string): string => `answer_${ownAttribute(field)}`;
