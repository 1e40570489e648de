/** Secrets: where they come from, and how every output is kept from them. */
import { lstatSync, readFileSync, realpathSync, statSync } from "node:fs";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { ownOf } from "../core/own.js";
import type { Io } from "../io/io.js";

const MOST_BYTES = 100_000;

/** Texts that no output may show, and how they are kept from it. */
export interface Secrets {
  /** A text without any of them, without signs that steer a terminal, and of bounded length. */
  cleaned(text: string, limit?: number): string;
  add(secret: string): void;
}

const LONGEST_SAID = 300;

/** Secrets that are known; more may be told on the way. */
export function secretsOf(...known: readonly string[]): Secrets {
  const all = new Set<string>();
  const add = (secret: string): void => {
    if (secret.length >= 4)
      all.add(secret).add(encodeURIComponent(secret)).add(Buffer.from(secret).toString("base64"));
  };
  known.forEach(add);
  return {
    add,
    cleaned(text, limit = LONGEST_SAID) {
      let shown = text;
      for (const secret of all) shown = shown.replaceAll(secret, "…");
      const plain = shown.replace(/[\p{Cc}\p{Cf}\p{Zl}\p{Zp}]+/gu, " ").trim();
      return plain.length > limit ? `${plain.slice(0, limit)}…` : plain;
    },
  };
}

function refuse(key: string, reason: string, file: string): never {
  throw new Refusal([diagnostic("wrong-setting", { key, reason }, { place: { file } })]);
}

/** A secret from the environment. @throws Refusal where it is not there */
export function secretFrom(variable: string, key: string, file: string, { environment }: Io): string {
  const secret = ownOf(environment, variable) ?? "";
  if (secret === "") refuse(key, `the environment has no ${variable}; set it before the command`, file);
  return secret.trim();
}

/** A secret from a file that only its owner may read. @throws Refusal where others may, or it is not there */
export function secretIn(path: string, key: string, file: string): string {
  try {
    lstatSync(path);
    const found = statSync(realpathSync(path));
    if (!found.isFile() || found.size > MOST_BYTES) refuse(key, "the file is none that holds a secret", file);
    // Windows has no such bits, and says 0o666 of every file.
    if (process.platform !== "win32" && (found.mode & 0o077) !== 0)
      refuse(key, `others than its owner may read the file; run: chmod 600 ${path}`, file);
    return readFileSync(path, "utf8").trim();
  } catch (error) {
    if (error instanceof Refusal) throw error;
    return refuse(key, "the file with the secret cannot be read", file);
  }
}
