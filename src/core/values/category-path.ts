/** A catalogue category is a path in words: `Garden > Tools > Spades`. */
const SEPARATOR = ">";

/** The parts of a path, outer first, trimmed. */
export function pathParts(path: string): readonly string[] {
  return path
    .split(SEPARATOR)
    .map((part) => part.trim())
    .filter(Boolean);
}

/** The path written in one way: `Garden > Tools`. */
export const pathText = (parts: readonly string[]): string => parts.join(` ${SEPARATOR} `);

/** The path and each one above it, nearest first. */
export function selfAndAbove(path: string): readonly string[] {
  const parts = pathParts(path);
  return parts.map((_, index) => pathText(parts.slice(0, parts.length - index)));
}

/** Whether a path holds another path's parts in a row: `Garden > Tools > Spades` is under `Tools`. */
export const isUnder = (path: string, outer: string): boolean =>
  ` > ${pathText(pathParts(path))} > `.includes(` > ${pathText(pathParts(outer))} > `);
