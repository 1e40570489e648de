/** What a table of ours has under a name of any origin; names of the language, such as constructor, find nothing. */
export const ownOf = <T>(table: Readonly<Record<string, T>>, name: string): T | undefined =>
  // eslint-disable-next-line house/data-names -- here it is made sure
  Object.hasOwn(table, name) ? table[name] : undefined;

/** An object without any name of the language, to be filled by names of any origin. */
export const bareObject = <T>(): Record<string, T> => Object.create(null) as Record<string, T>;
