import type { FileKind } from "./file-kind.js";

/** How an archive of files begins; one of several tables was unpacked before, so what is left is a workbook. */
export const isZip = (bytes: Buffer): boolean =>
  ["504b0304", "504b0506"].includes(bytes.subarray(0, 4).toString("hex"));

/** Workbooks (Office Open XML). */
export const xlsx: FileKind = {
  format: "xlsx",
  words: "a workbook",
  extensions: ["xlsx", "xlsm"],
  isWorkbook: true,
  isSheet: true,
  holds: ({ bytes }) => isZip(bytes),
  open: async (source, options) => (await import("../xlsx-reader.js")).openXlsx(source, options),
};
