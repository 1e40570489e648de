/** Tests by a text that repeats over many products; each different text is asked once. */
import { pathParts } from "../../core/values/category-path.js";
import { fold } from "../../core/values/text.js";

/** A test of a text that repeats over many products: asked once for each different text, all of which are remembered. */
export interface NamedValue {
  test(text: string): boolean;
  /** Every text that was asked about. */
  readonly seen: Iterable<string>;
  /** Whether any of them passed. */
  readonly isKnown: boolean;
}

function namedValue(passes: (text: string) => boolean): NamedValue {
  const answers = new Map<string, boolean>();
  let isKnown = false;
  return {
    test(text) {
      let answer = answers.get(text);
      if (answer === undefined) answers.set(text, (answer = passes(text)));
      isKnown ||= answer;
      return answer;
    },
    seen: answers.keys(),
    get isKnown() {
      return isKnown;
    },
  };
}

const folded = (path: string): string => ` > ${pathParts(path).map(fold).join(" > ")} > `;

/** A category by its path or a part of it, whatever the case. */
export function namedCategory(category: string): NamedValue {
  const wanted = folded(category);
  return namedValue((path) => folded(path).includes(wanted));
}

/** A group by its name. */
export const namedGroup = (group: string): NamedValue => namedValue((name) => name === group);

/** What a person can have meant by a category: whole paths, and their last parts. */
export function categoryNames(paths: Iterable<string>): ReadonlySet<string> {
  const names = new Set<string>();
  for (const path of paths) {
    const parts = pathParts(path);
    parts.forEach((part, index) => {
      names.add(part);
      names.add(parts.slice(0, index + 1).join(" > "));
    });
  }
  names.delete("");
  return names;
}
