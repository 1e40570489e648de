import { LIST_SEPARATOR } from "./record.js";

/** The values that a product's text holds, where its attribute has several. */
export const itemsOf = (text: string): readonly string[] => text.split(LIST_SEPARATOR);

/** Several values as a product's one text. */
export const listText = (items: readonly string[]): string => items.join(LIST_SEPARATOR);

/** A text with its values shown one behind the other. */
export const shownItems = (text: string, between: string): string => text.replaceAll(LIST_SEPARATOR, between);

/** Whether a text holds more than one value. */
export const holdsSeveral = (text: string): boolean => text.includes(LIST_SEPARATOR);
