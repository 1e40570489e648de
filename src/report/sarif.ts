/** Findings as SARIF 2.1.0 (OASIS). */
import type { Diagnostic } from "../core/diagnostics/diagnostic.js";
import type { Place } from "../core/diagnostics/place.js";
import { sentence } from "../workspace/wording.js";
import type { Locator } from "../flow/check/locate.js";

/**
 * Findings as SARIF 2.1.0 (OASIS), the form in which editors and code hosts mark lines. A place in a text file is its line
 * and column, one in a data file the line on which its row begins.
 */
export interface SarifLog {
  add(finding: Diagnostic): void;
  text(): string;
}

/** What a log says of us, and how it finds places. */
export interface SarifFacts {
  readonly version: string;
  readonly locate: Locator;
}

const levels = { error: "error", warning: "warning", advice: "note" } as const;

/** Code hosts take so many of one run; what is beyond is counted. */
const MOST = 25_000;

/** Begins a log. */
export function sarifLog({ version, locate }: SarifFacts): SarifLog {
  const results: unknown[] = [];
  const rules = new Map<string, number>();
  let passedOver = 0;
  const location = (place: Place): unknown => {
    const found = locate(place);
    if (found === undefined) return undefined;
    const startColumn = place.line === undefined ? undefined : place.position;
    return {
      physicalLocation: {
        artifactLocation: { uri: encodeURI(found.uri), uriBaseId: "WORKSPACE" },
        region: { startLine: found.line, ...(startColumn === undefined ? {} : { startColumn }) },
      },
    };
  };
  return {
    add(finding) {
      if (results.length >= MOST) {
        passedOver++;
        return;
      }
      const { code, severity, product, channel, field, place, notes = [] } = finding;
      const rule = rules.get(code) ?? rules.size;
      rules.set(code, rule);
      const [first, ...others] = [...(place === undefined ? [] : [place]), ...notes.map((note) => note.place)]
        .map(location)
        .filter((found) => found !== undefined);
      const about = [product, channel].filter((part) => part !== undefined).join(" on ");
      results.push({
        ruleId: code,
        ruleIndex: rule,
        level: levels[severity],
        message: { text: about === "" ? sentence(finding) : `${about}: ${sentence(finding)}` },
        ...(first === undefined ? {} : { locations: [first] }),
        ...(others.length === 0 ? {} : { relatedLocations: others }),
        partialFingerprints: { "finding/v1": [code, channel, product, field].join("/") },
      });
    },
    text: () =>
      JSON.stringify({
        $schema: "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json",
        version: "2.1.0",
        runs: [
          {
            tool: {
              driver: {
                name: "Lexicant",
                version,
                rules: [...rules.keys()].map((id) => ({ id, name: pascal(id) })),
              },
            },
            originalUriBaseIds: { WORKSPACE: { description: { text: "the workspace's folder" } } },
            ...(passedOver === 0
              ? {}
              : { properties: { passedOver, note: `more than ${MOST} findings; narrow them` } }),
            results,
          },
        ],
      }),
  };
}

const pascal = (code: string): string =>
  code.replace(/(?:^|-)([a-z])/g, (_, letter: string) => letter.toUpperCase());
