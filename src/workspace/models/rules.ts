import { ValidateBy, type ValidationOptions } from "class-validator";
import { isCurrency } from "../../core/values/currencies.js";
import { unitOf } from "../../core/values/units.js";

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

/** A map whose values are unit codes. */
export const AreUnits = (): PropertyDecorator =>
  ValidateBy({
    name: "areUnits",
    validator: {
      validate: (value: unknown) =>
        typeof value === "object" &&
        value !== null &&
        Object.values(value).every((unit) => typeof unit === "string" && unitOf(unit) !== undefined),
      defaultMessage: () => "gives each attribute a unit such as kg, cm or l",
    },
  });
