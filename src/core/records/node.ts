/** One element of XML, or one value of JSON under its key: a list gives as many nodes as it has items. */
export interface RecordNode {
  readonly name: string;
  /** The element or value that it stands in; undefined for the file's own. */
  readonly parent: RecordNode | undefined;
  /** Attributes of an element, by name; `lang` for `xml:lang`. */
  readonly attributes: ReadonlyMap<string, string>;
  readonly children: readonly RecordNode[];
  /** The text of a node without further ones; undefined where it has none. */
  readonly text: string | undefined;
  /** Whether the file has gone on behind it, so that nothing more comes into it. */
  readonly isClosed: boolean;
}

/** Whether names end in those of a pattern, in which `*` is any. */
export function endsIn(path: string, pattern: string): boolean {
  const [names, wanted] = [path.split("/"), pattern.split("/")];
  if (wanted.length > names.length) return false;
  const from = names.length - wanted.length;
  return wanted.every((name, at) => name === "*" || name === names[from + at]);
}
