import type { PatternCompiler } from "../core/channel/definition-source.js";

/** Patterns come from definition files: they run on an engine whose time is linear in the text, never on backtracking. */
export async function patternCompiler(needed: boolean): Promise<PatternCompiler> {
  if (!needed) return () => ({ reason: "no pattern engine is loaded" });
  const { RE2JS } = await import("re2js");
  return (source) => {
    try {
      const compiled = RE2JS.compile(source);
      return {
        source,
        matches: (text) => compiled.matches(text),
        find(text) {
          const found = compiled.matcher(text);
          return found.find() ? (found.group() ?? "") : undefined;
        },
      };
    } catch (error) {
      return { reason: error instanceof Error ? error.message : String(error) };
    }
  };
}
