/** A pattern of file names, to hold names against. */
export interface NamePattern {
  test(name: string): boolean;
}

/**
 * A file name with `*` for any characters and `?` for one; letters compare without case. A star that led nowhere takes one
 * character more: the time is that of name times pattern at worst, whatever the pattern.
 */
export function namePattern(pattern: string): NamePattern {
  const wanted = [...pattern.toLowerCase()];
  return {
    test(name) {
      const signs = [...name.toLowerCase()];
      let [at, on, star, taken] = [0, 0, -1, 0];
      while (at < signs.length) {
        if (wanted[on] === "*") {
          star = on++;
          taken = at;
        } else if (on < wanted.length && (wanted[on] === "?" || wanted[on] === signs[at])) {
          on++;
          at++;
        } else if (star < 0) return false;
        else {
          on = star + 1;
          at = ++taken;
        }
      }
      while (wanted[on] === "*") on++;
      return on === wanted.length;
    },
  };
}
