/** The folder that a command works in, relative to the current one. */
export interface NamedFolder {
  readonly folder: string;
  /** By what it was named: then it is a workspace itself. Undefined: the workspace is looked for around the current folder. */
  readonly named: "-C" | "LEXICANT_WORKSPACE" | undefined;
}
