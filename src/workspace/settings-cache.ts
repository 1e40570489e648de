/** Settings that were found good before, by what their file says. */
import { createHash } from "node:crypto";
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { version } from "./version.js";

/**
 * Settings that were found good before, by what their file says: the validator is the heaviest package that a short
 * command would wait for, and a file that has not changed need not be judged again.
 */
export interface SettingsCache {
  find(model: string, text: string): object | undefined;
  keep(model: string, text: string, value: object): void;
}

/** Remembers nothing, where there is no workspace to remember it in. */
export const noCache: SettingsCache = { find: () => undefined, keep: () => undefined };

/** Keeps settings in a folder; where it cannot be written, the validator runs again next time. */
export function settingsCache(folder: string): SettingsCache {
  const fileOf = (model: string, text: string): string =>
    join(
      folder,
      `${createHash("sha256").update(`${version()}\0${model}\0${text}`).digest("hex").slice(0, 32)}.json`,
    );
  return {
    find(model, text) {
      try {
        const value: unknown = JSON.parse(readFileSync(fileOf(model, text), "utf8"));
        return typeof value === "object" && value !== null ? value : undefined;
      } catch {
        return undefined;
      }
    },
    keep(model, text, value) {
      const file = fileOf(model, text);
      try {
        mkdirSync(folder, { recursive: true });
        // In place: half of it is no JSON, and is made anew by whoever finds it so.
        writeFileSync(file, JSON.stringify(value));
      } catch {
        // A cache that cannot be kept costs time and nothing else.
      }
    },
  };
}
