// Shorter pieces are texts of their own anyway.
const PIECE = 13;

/**
 * The same text by itself, for whoever keeps it: a piece of a larger text keeps all of that, a megabyte of a file, for as
 * long as it lives.
 */
export const apart = (text: string): string =>
  text.length < PIECE ? text : [text.slice(0, 1), text.slice(1)].join("");
