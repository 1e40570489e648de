import type { FileKind } from "./file-kind.js";

const xmlHead = /^\s*(?:<\?xml|<!doctype(?! html)|<[a-z][\w:.-]*(?:\s[^<>]*)?>\s*<)/i;
const htmlHead = /^\s*<(?:!doctype html|html|table)\b/i;

/** XML of records. */
export const xml: FileKind = {
  format: "xml",
  words: "XML",
  extensions: ["xml"],
  hasOpenMarks: true,
  holds: ({ text, named }) =>
    (xmlHead.test(text) || (named === "xml" && /^\s*</.test(text))) && !htmlHead.test(text),
  open: async (source, options) => (await import("../xml-reader.js")).openXml(source, options),
};
