/** Reads a layout's settings key by key; keys that nobody asked for and values of another shape are told. */
import { addAll } from "../many.js";
import { ownOf } from "../own.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { orNearest } from "../diagnostics/phrases.js";
import { nearest } from "../values/nearest.js";
import type { Place } from "../diagnostics/place.js";

/** Reads what a layout says beside its columns, key by key; what is wrong or never asked for is told. */
export interface LayoutSettings {
  text(key: string, usual: string): string;
  oneOf<T extends string>(key: string, choices: readonly T[], usual: T): T;
  yesNo(key: string, usual: boolean): boolean;
  /** A whole number from 1. */
  count(key: string, usual: number): number;
  texts(key: string): readonly string[];
  /** Texts by name. */
  map(key: string): Readonly<Record<string, string>>;
  /** Lists of texts by name. */
  lists(key: string): Readonly<Record<string, readonly string[]>>;
  /** Any value, for what has a shape of its own. */
  raw(key: string): unknown;
  /** Tells that a key's value is none that it can have. */
  wrong(key: string, reason: string): void;
  /** Tells what was found wrong in settings within these. */
  tell(findings: readonly Diagnostic[]): void;
  readonly place: Place;
  /** Tells the keys that nothing asked for. */
  end(): void;
}

/** Begins to read settings; `above` is what keys are called below in messages. */
export function layoutSettings(
  settings: Readonly<Record<string, unknown>>,
  place: Place,
  findings: Diagnostic[],
  above = "settings.",
): LayoutSettings {
  const asked = new Set<string>();
  const wrong = (key: string, reason: string): void => {
    findings.push(diagnostic("wrong-setting", { key: `${above}${key}`, reason }, { place }));
  };
  const get = (key: string): unknown => {
    asked.add(key);
    return ownOf(settings, key);
  };
  const isText = (value: unknown): value is string => typeof value === "string";
  return {
    text(key, usual) {
      const value = get(key);
      if (value === undefined) return usual;
      if (isText(value)) return value;
      wrong(key, "is a text");
      return usual;
    },
    oneOf(key, choices, usual) {
      const value = get(key);
      const found = choices.find((choice) => choice === value);
      if (value !== undefined && found === undefined)
        wrong(
          key,
          `is one of ${choices.join(", ")}${typeof value === "string" ? orNearest(nearest(value, choices)) : ""}`,
        );
      return found ?? usual;
    },
    yesNo(key, usual) {
      const value = get(key);
      if (value === undefined) return usual;
      if (value === true || value === "yes") return true;
      if (value !== false && value !== "no") wrong(key, "is yes or no");
      return false;
    },
    count(key, usual) {
      const value = get(key);
      if (value === undefined) return usual;
      if (typeof value === "number" && Number.isInteger(value) && value >= 1) return value;
      wrong(key, "is a whole number from 1");
      return usual;
    },
    texts(key) {
      const value = get(key);
      if (value === undefined) return [];
      if (Array.isArray(value) && value.every(isText)) return value;
      wrong(key, "is a list of texts");
      return [];
    },
    map(key) {
      const value = get(key);
      if (value === undefined) return {};
      if (typeof value === "object" && value !== null && Object.values(value).every(isText))
        return value as Readonly<Record<string, string>>;
      wrong(key, "gives each name a text");
      return {};
    },
    lists(key) {
      const value = get(key);
      if (value === undefined) return {};
      const isLists = (one: unknown): one is readonly string[] => Array.isArray(one) && one.every(isText);
      if (typeof value === "object" && value !== null && Object.values(value).every(isLists))
        return value as Readonly<Record<string, readonly string[]>>;
      wrong(key, "gives each name a list of texts");
      return {};
    },
    raw: get,
    wrong,
    place,
    tell(more) {
      addAll(findings, more);
    },
    end() {
      for (const key of Object.keys(settings))
        if (!asked.has(key))
          findings.push(
            diagnostic("unknown-setting", { key: `${above}${key}`, nearest: nearest(key, asked) }, { place }),
          );
    },
  };
}
