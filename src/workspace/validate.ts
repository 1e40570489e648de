/** class-validator's answers as findings of ours, with the place of each key. */
import "reflect-metadata";
import { plainToInstance } from "class-transformer";
import { getMetadataStorage, validateSync, type ValidationError } from "class-validator";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import type { Place } from "../core/diagnostics/place.js";
import { hasFreeNames } from "./models/rules.js";

/** A class of settings. */
export type Model<T> = new () => T;

/** Settings, and what is wrong with them. */
export interface Validated<T> {
  readonly value: T;
  readonly findings: readonly Diagnostic[];
}

/** Validates plain data by a model's decorators; `placeOf` tells where a key stands in the person's file. */
export function validate<T extends object>(
  model: Model<T>,
  plain: unknown,
  placeOf: (path: readonly (string | number)[]) => Place | undefined,
): Validated<T> {
  const isMap = typeof plain === "object" && plain !== null && !Array.isArray(plain);
  // At the top no name is free.
  const known = isMap ? Object.entries(plain).filter(([key]) => !isOfLanguage(key)) : [];
  const value = plainToInstance(model, hidden(Object.fromEntries(known)));
  const refused: Diagnostic[] = [];
  const refuse = (path: readonly (string | number)[]): void => {
    const place = placeOf(path) ?? placeOf(path.slice(0, -1));
    const key = String(path.at(-1));
    refused.push(diagnostic("unknown-setting", { key, nearest: [] }, place === undefined ? {} : { place }));
  };
  shownAgain(value, [], refuse);
  if (isMap) for (const key of Object.keys(plain).filter(isOfLanguage)) refuse([key]);
  const errors = validateSync(value, {
    whitelist: true,
    forbidNonWhitelisted: true,
    forbidUnknownValues: false,
  });
  const findings = [...refused, ...errors.flatMap((error) => findingsOf(error, [], placeOf))];
  if (!isMap && plain !== null && plain !== undefined) {
    const place = placeOf([]);
    findings.push(
      diagnostic(
        "wrong-setting",
        { key: "file", reason: "settings are wanted, one a line, such as key: value" },
        place === undefined ? {} : { place },
      ),
    );
  }
  return { value, findings };
}

const isOfLanguage = (key: string): boolean => Object.hasOwn(Object.prototype, key);

/** The package that makes models of plain data takes a key such as "constructor" for the object's own: maps with one pass it by as closures. */
function hidden(plain: unknown): unknown {
  if (Array.isArray(plain)) return plain.map(hidden);
  if (typeof plain !== "object" || plain === null) return plain;
  if (Object.keys(plain).some(isOfLanguage)) return () => plain;
  return Object.fromEntries(Object.entries(plain).map(([key, value]) => [key, hidden(value)]));
}

/** Puts back what was hidden, where a person's own names may stand; elsewhere its keys are no settings. */
function shownAgain(
  value: unknown,
  path: readonly (string | number)[],
  refuse: (path: readonly (string | number)[]) => void,
): void {
  if (typeof value !== "object" || value === null) return;
  for (const [key, inner] of Object.entries(value) as [string, unknown][]) {
    const here = [...path, Array.isArray(value) ? Number(key) : key];
    if (typeof inner !== "function") {
      shownAgain(inner, here, refuse);
      continue;
    }
    const map = (inner as () => object)();
    const isFree = hasFreeNames(value, key);
    if (!isFree) for (const name of Object.keys(map).filter(isOfLanguage)) refuse([...here, name]);
    Reflect.set(value, key, isFree ? map : undefined);
  }
}

function findingsOf(
  error: ValidationError,
  above: readonly (string | number)[],
  placeOf: (path: readonly (string | number)[]) => Place | undefined,
): readonly Diagnostic[] {
  const path = [...above, /^\d+$/.test(error.property) ? Number(error.property) : error.property];
  const place = placeOf(path) ?? placeOf(above);
  const where = place === undefined ? {} : { place };
  const own = Object.entries(error.constraints ?? {}).map(([constraint, message]) => {
    if (constraint === "whitelistValidation")
      return diagnostic(
        "unknown-setting",
        { key: error.property, nearest: nearest(error.property, knownKeys(error.target)) },
        where,
      );
    const reason = message.startsWith(`${error.property} `)
      ? message.slice(error.property.length + 1)
      : message;
    return diagnostic("wrong-setting", { key: path.join("."), reason }, where);
  });
  return [...own, ...(error.children ?? []).flatMap((child) => findingsOf(child, path, placeOf))];
}

function knownKeys(target: object | undefined): readonly string[] {
  if (target === undefined) return [];
  const metadata = getMetadataStorage().getTargetValidationMetadatas(target.constructor, "", false, false);
  return [...new Set(metadata.map(({ propertyName }) => propertyName))];
}
