/** JSON and JSON Lines as kinds of files: told apart by their first lines. Reading them is `json-reader.ts`'s. */
import type { FileHead, FileKind } from "./file-kind.js";

const jsonHead = /^\s*(?:\[\s*[[{]|\[\s*\]|\{\s*")/;

function isJson(text: string): boolean {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}

/** Objects one a line: the first line is whole by itself, and more follow or the name says so. */
function areLines({ text, named }: FileHead): boolean {
  const [first = "", second = ""] = text.split("\n").filter((line) => line.trim() !== "");
  return (
    first.trimStart().startsWith("{") &&
    // A line that is longer than what is shown of it cannot be looked at: its name is believed.
    ((named === "jsonl" && !text.includes("\n")) ||
      (isJson(first) && (second.trimStart().startsWith("{") || named !== "json")))
  );
}

/** JSON Lines: an object a line. */
export const jsonLines: FileKind = {
  format: "jsonl",
  words: "JSON Lines",
  extensions: ["jsonl", "ndjson"],
  near: "json",
  holds: (head) => jsonHead.test(head.text) && areLines(head),
  open: async (source, options) => (await import("../json-reader.js")).openJsonLines(source, options),
};

/** JSON: a list of objects within a document. */
export const json: FileKind = {
  format: "json",
  words: "JSON",
  extensions: ["json"],
  near: "jsonl",
  holds: ({ text }) => jsonHead.test(text),
  open: async (source, options) => (await import("../json-reader.js")).openJson(source, options),
};
