import type { Format } from "../table-stream.js";
import { csv } from "./csv.js";
import type { FileKind } from "./file-kind.js";
import { json, jsonLines } from "./json.js";
import { xlsx } from "./xlsx.js";
import { xml } from "./xml.js";

/** Every kind of file that is read, in the order in which a file is asked whether it is one. */
export const kinds: readonly FileKind[] = [xlsx, xml, jsonLines, json, csv];

/** A kind by its format. */
export const kindOf = (format: Format): FileKind => kinds.find((kind) => kind.format === format) ?? csv;

/** What a file's name says that it is. */
export function kindNamed(file: string): FileKind | undefined {
  const extension = /\.(\w+)$/.exec(file)?.[1]?.toLowerCase() ?? "";
  return kinds.find(({ extensions }) => extensions.includes(extension));
}
