import "reflect-metadata";
import { plainToInstance } from "class-transformer";
import { getMetadataStorage, validateSync, type ValidationError } from "class-validator";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import type { Place } from "../core/diagnostics/place.js";

export type Model<T> = new () => T;

export interface Validated<T> {
  readonly value: T;
  readonly findings: readonly Diagnostic[];
}

/** Validates plain data by a model's decorators; `placeOf` tells where a key stands in the person's file. */
export const validate = <T extends object>(
  model: Model<T>,
  plain: unknown,
  placeOf: (path: readonly (string | number)[]) => Place | undefined,
): Validated<T> => {
  const isMap = typeof plain === "object" && plain !== null && !Array.isArray(plain);
  const value = plainToInstance(model, isMap ? plain : {});
  const errors = validateSync(value, {
    whitelist: true,
    forbidNonWhitelisted: true,
    forbidUnknownValues: false,
  });
  const findings = errors.flatMap((error) => findingsOf(error, [], placeOf));
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
};

const findingsOf = (
  error: ValidationError,
  above: readonly (string | number)[],
  placeOf: (path: readonly (string | number)[]) => Place | undefined,
): readonly Diagnostic[] => {
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
};

const knownKeys = (target: object | undefined): readonly string[] => {
  if (target === undefined) return [];
  const metadata = getMetadataStorage().getTargetValidationMetadatas(target.constructor, "", false, false);
  return [...new Set(metadata.map(({ propertyName }) => propertyName))];
};
