/** A name of XML without its namespace's prefix, which each program chooses itself. */
export const localName = (name: string): string => name.slice(name.indexOf(":") + 1);
