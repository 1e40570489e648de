import { text as wholeText } from "node:stream/consumers";
import { resolve } from "node:path";
import { smallFile } from "../../formats/small-file.js";
import type { Io } from "../../io/io.js";

/** The text behind `@`: a file's, or what is read from standard input. */
const textBehind = (name: string, io: Io): Promise<string> =>
  name === "-"
    ? wholeText(io.input)
    : smallFile(resolve(io.cwd, name), name).then((bytes) => bytes.toString());

const trimmed = (parts: readonly string[]): readonly string[] =>
  parts.map((sku) => sku.trim()).filter(Boolean);

/**
 * SKUs as a command line names them: with commas between, or `@FILE` (or `@-`) with one a line.
 * @throws Refusal where the file cannot be read
 */
export async function skusIn(list: string, io: Io): Promise<readonly string[]> {
  if (!list.startsWith("@")) return trimmed(list.split(","));
  const text = await textBehind(list.slice(1), io);
  return trimmed(text.replace(/^\ufeff/, "").split(/\r\n?|\n/));
}
