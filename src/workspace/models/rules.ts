/** Decorators of our own for what models have in common. */
import "reflect-metadata";
import { purposeNames } from "../../core/channel/purpose-names.js";
import { Transform } from "class-transformer";
import { IsBoolean, ValidateBy, type ValidationOptions } from "class-validator";
import { alterations } from "../../core/channel/exchange-definition.js";
import { isAttributeName, isOurs, tiesProducts } from "../../core/catalogue/vocabulary.js";
import { isKindWord, kindWords } from "../own-kinds.js";
import { isCurrency } from "../../core/values/currencies.js";
import { unitOf } from "../../core/values/units.js";

const FREE_NAMES = Symbol("names of its own");

/** A map whose keys are a person's own names, and no settings: any text may stand there, a name of the language too. */
export const FreeNames = (): PropertyDecorator => (target, key) =>
  Reflect.defineMetadata(FREE_NAMES, true, target, key);

/** Whether a property of a model is such a map. */
export const hasFreeNames = (model: object, key: string): boolean =>
  Reflect.getMetadata(FREE_NAMES, model, key) === true;

const rule = (
  name: string,
  message: string,
  holds: (value: string) => boolean,
  options: ValidationOptions = {},
): PropertyDecorator =>
  ValidateBy(
    {
      name,
      validator: {
        validate: (value: unknown) => typeof value === "string" && holds(value),
        defaultMessage: () => message,
      },
    },
    options,
  );

/** An active ISO 4217 code. */
export const IsCurrencyCode = (options?: ValidationOptions): PropertyDecorator =>
  rule("isCurrencyCode", "is a currency code such as GBP or EUR (ISO 4217)", isCurrency, options);

/** A time zone by its name in the time zone database (IANA). */
export const IsTimeZone = (): PropertyDecorator =>
  rule("isTimeZone", "is a time zone such as Europe/London or Europe/Zurich (IANA)", (name) => {
    try {
      return Intl.DateTimeFormat("en", { timeZone: name }).resolvedOptions().timeZone !== "";
    } catch {
      return false;
    }
  });

/** One currency, or several of which the first is that of bare numbers. */
export function AreCurrencies(): PropertyDecorator {
  const read = Transform(({ value }: { value: unknown }) => (typeof value === "string" ? [value] : value));
  const check = ValidateBy({
    name: "areCurrencies",
    validator: {
      validate: (value: unknown) =>
        Array.isArray(value) &&
        value.length > 0 &&
        value.every((code) => typeof code === "string" && isCurrency(code)),
      defaultMessage: () =>
        "is a currency code such as GBP or EUR (ISO 4217), or a list of those that the file has, that of bare numbers first",
    },
  });
  return (target, key) => {
    read(target, key);
    check(target, key);
  };
}

/** A map whose values are unit codes. */
export function AreUnits(): PropertyDecorator {
  return ValidateBy({
    name: "areUnits",
    validator: {
      validate: (value: unknown) =>
        typeof value === "object" &&
        value !== null &&
        Object.values(value).every((unit) => typeof unit === "string" && unitOf(unit) !== undefined),
      defaultMessage: () => "gives each attribute a unit such as kg, cm or l",
    },
  });
}

/** Yes or no as our files write it; YAML's own true and false will do. */
export function YesOrNo(): PropertyDecorator {
  const words = new Map<unknown, boolean>([
    ["yes", true],
    ["no", false],
  ]);
  const read = Transform(({ value }: { value: unknown }) => words.get(value) ?? value);
  const check = IsBoolean({ message: "is yes or no" });
  return (target, key) => {
    read(target, key);
    check(target, key);
  };
}

/** Whether keys are written: yes, no, or where a product has none. */
export function IsKeyWriting(): PropertyDecorator {
  const words = new Map<unknown, unknown>([
    ["yes", true],
    ["no", false],
  ]);
  const read = Transform(({ value }: { value: unknown }) => words.get(value) ?? value);
  const check = ValidateBy({
    name: "isKeyWriting",
    validator: {
      validate: (value: unknown) => typeof value === "boolean" || value === "where-blank",
      defaultMessage: () => "is yes, no or where-blank",
    },
  });
  return (target, key) => {
    read(target, key);
    check(target, key);
  };
}

/** A price as a person writes it in a setting: a number, or one with a currency. */
export function IsAmount(): PropertyDecorator {
  return ValidateBy({
    name: "isAmount",
    validator: {
      validate: (value: unknown) =>
        (typeof value === "number" && value >= 0) || (typeof value === "string" && /\d/.test(value)),
      defaultMessage: () => "is a price such as 5 or 5.00 GBP",
    },
  });
}

/** Hazardous goods: all, none, or a list of the hazards that are taken. */
export function IsHazardChoice(): PropertyDecorator {
  const read = Transform(({ value }: { value: unknown }) =>
    value === "yes" ? true : value === "no" ? false : value,
  );
  const check = ValidateBy({
    name: "isHazardChoice",
    validator: {
      validate: (value: unknown) =>
        typeof value === "boolean" || (Array.isArray(value) && value.every((one) => typeof one === "string")),
      defaultMessage: () => "is yes, no, or a list of the hazards that are taken",
    },
  });
  return (target, key) => {
    read(target, key);
    check(target, key);
  };
}

/** A sheet of a workbook: its name, or its number from 1. */
export function IsSheet(): PropertyDecorator {
  return ValidateBy({
    name: "isSheet",
    validator: {
      validate: (value: unknown) =>
        (typeof value === "string" && value.length > 0) ||
        (typeof value === "number" && Number.isInteger(value) && value > 0),
      defaultMessage: () => "is a sheet's name, or its number from 1",
    },
  });
}

const kindsInWords = Object.keys(kindWords).join(", ");

/** Attributes of a shop's own, each with its kind, its permitted values, or a map of both. */
export function AreDeclaredAttributes(): PropertyDecorator {
  return ValidateBy({
    name: "areDeclaredAttributes",
    validator: {
      validate: (value: unknown) =>
        typeof value === "object" &&
        value !== null &&
        Object.entries(value).every(([name, entry]) => isOwnName(name) && isDeclaration(entry)),
      defaultMessage: () =>
        `gives each attribute of your own (no name of ours, without @) its kind (${kindsInWords}), a list of its permitted values, or {kind: KIND, several: yes, values: [...]}`,
    },
  });
}

const isOwnName = (name: string): boolean => isAttributeName(name) && !name.includes("@") && !isOurs(name);

const arePermitted = (values: unknown): boolean =>
  Array.isArray(values) &&
  values.length > 0 &&
  values.every((one) => (typeof one === "string" && one !== "") || typeof one === "number");

function isDeclaration(entry: unknown): boolean {
  if (isKindWord(entry) || arePermitted(entry)) return true;
  if (typeof entry !== "object" || entry === null || Array.isArray(entry)) return false;
  const { kind, several, values, ...others } = entry as Readonly<Record<string, unknown>>;
  return (
    (kind === undefined || isKindWord(kind)) &&
    (several === undefined || typeof several === "boolean" || several === "yes" || several === "no") &&
    (values === undefined || arePermitted(values)) &&
    Object.keys(others).length === 0
  );
}

const layerName = /^[a-z0-9][a-z0-9-]*$/;

/** Layers from lowest to highest: a name, or a name with the one channel that sees it. */
export function AreLayers(): PropertyDecorator {
  return ValidateBy({
    name: "areLayers",
    validator: {
      validate: (value: unknown) => Array.isArray(value) && value.every(isLayer) && areDifferent(value),
      defaultMessage: () =>
        "lists layers from lowest to highest, each once: a name in small letters, digits and dashes, or {layer: NAME, channel: CHANNEL}",
    },
  });
}

function isLayer(entry: unknown): boolean {
  if (typeof entry === "string") return layerName.test(entry);
  if (typeof entry !== "object" || entry === null) return false;
  const { layer, channel, ...others } = entry as Readonly<Record<string, unknown>>;
  const isName = (name: unknown): boolean => typeof name === "string" && layerName.test(name);
  return isName(layer) && isName(channel) && Object.keys(others).length === 0;
}

const areDifferent = (entries: readonly unknown[]): boolean =>
  new Set(entries.map((entry) => (typeof entry === "string" ? entry : (entry as { layer: string }).layer)))
    .size === entries.length;

const purposes: readonly string[] = purposeNames;

/** What files are for: names, or names with what a blank means and which fields they carry. */
export function ArePurposes(): PropertyDecorator {
  return ValidateBy({
    name: "arePurposes",
    validator: {
      validate: (value: unknown) => Array.isArray(value) && value.length > 0 && value.every(isPurpose),
      defaultMessage: () =>
        `lists purposes: ${purposes.join(", ")}, or {purpose: NAME, blank: leave or erase, must: [fields], may: [fields], opens: yes or no, action: WORD}`,
    },
  });
}

const areWords = (value: unknown): boolean =>
  value === undefined || (Array.isArray(value) && value.every((entry) => typeof entry === "string"));

function isPurpose(entry: unknown): boolean {
  if (typeof entry === "string") return purposes.includes(entry);
  if (typeof entry !== "object" || entry === null) return false;
  const { purpose, blank, must, may, opens, action, ...others } = entry as Readonly<Record<string, unknown>>;
  return (
    typeof purpose === "string" &&
    purposes.includes(purpose) &&
    (blank === undefined || blank === "leave" || blank === "erase") &&
    areWords(must) &&
    areWords(may) &&
    (opens === undefined || typeof opens === "boolean") &&
    (action === undefined || typeof action === "string") &&
    Object.keys(others).length === 0
  );
}

const everyValue = (name: string, message: string, holds: (value: unknown) => boolean): PropertyDecorator =>
  ValidateBy({
    name,
    validator: {
      validate: (value: unknown) =>
        typeof value === "object" && value !== null && Object.values(value).every(holds),
      defaultMessage: () => message,
    },
  });

/** Further rows of a product: a list of attributes, or a map of those and of what orders the rows. */
export function AreFurtherRows(): PropertyDecorator {
  const read = Transform(({ value }: { value: unknown }) => {
    if (typeof value === "string") return [value];
    if (typeof value !== "object" || value === null || !("add" in value)) return value;
    return { ...value, add: typeof value.add === "string" ? [value.add] : value.add };
  });
  const areNames = (value: unknown): boolean =>
    Array.isArray(value) &&
    value.length > 0 &&
    value.every((one) => typeof one === "string" && isAttributeName(one));
  const check = ValidateBy({
    name: "areFurtherRows",
    validator: {
      validate(value: unknown) {
        if (typeof value !== "object" || value === null || Array.isArray(value)) return areNames(value);
        const { add, order_by: order, ...others } = value as Readonly<Record<string, unknown>>;
        return areNames(add) && (order === undefined || order !== "") && Object.keys(others).length === 0;
      },
      defaultMessage: () =>
        "is a list of attributes, or {add: [attributes], order_by: COLUMN} for rows that stand anywhere",
    },
  });
  return (target, key) => {
    read(target, key);
    check(target, key);
  };
}

/** A map whose values are attributes. */
export const AreAttributes = (): PropertyDecorator =>
  everyValue(
    "areAttributes",
    "gives each name an attribute, such as length or color",
    (value) => typeof value === "string" && isAttributeName(value) && value !== "sku" && value !== "group",
  );

/** Columns by channel and attribute; what finds products or ties them to each other is no channel's alone. */
export const AreChannelColumns = (): PropertyDecorator =>
  everyValue(
    "areChannelColumns",
    `gives channels their own columns by attribute, such as {market: {price: PRICE}}; ${tiesProducts.join(", ")} are the same for all`,
    (value) =>
      typeof value === "object" &&
      value !== null &&
      !Array.isArray(value) &&
      Object.keys(value).every((name) => isAttributeName(name) && !tiesProducts.includes(name)),
  );

/** A map whose values are texts. */
export const AreTexts = (): PropertyDecorator =>
  everyValue("areTexts", "gives each name a text", (value) => typeof value === "string");

/** A map whose values are lists of what a channel does to texts. */
export function AreAlterations(): PropertyDecorator {
  return everyValue(
    "areAlterations",
    `gives each field a list of ${alterations.join(", ")}`,
    (value) => Array.isArray(value) && value.every((one) => alterations.some((known) => known === one)),
  );
}
