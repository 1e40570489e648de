import { put } from "./named.js";

/** Whether an address is one of a pattern; gives what stands in its marks. */
export function matched(
  pattern: string,
  path: string,
  query: URLSearchParams,
): Readonly<Record<string, string>> | undefined {
  const [own = "", asked = ""] = pattern.split("?");
  const names: string[] = [];
  const form = own.replace(/[.*+^$()|[\]\\]/g, "\\$&").replace(/\{([a-z]+)\}/g, (_, name: string) => {
    names.push(name);
    return "([^/]+)";
  });
  const found = new RegExp(`^/?${form.replace(/^\//, "")}$`).exec(path.replace(/^\//, ""));
  if (found === null) return undefined;
  const facts: Record<string, string> = {};
  names.forEach((name, at) => put(facts, name, decodeURIComponent(found[at + 1] ?? "")));
  for (const [name, mark] of new URLSearchParams(asked)) {
    const value = query.get(name);
    if (value === null) return undefined;
    put(facts, mark.replace(/[{}]/g, ""), value);
  }
  return facts;
}
