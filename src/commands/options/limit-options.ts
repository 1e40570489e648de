import { Transform } from "class-transformer";
import { IsInt, IsOptional, Max, Min } from "class-validator";

const rules: readonly PropertyDecorator[] = [
  IsOptional(),
  Transform(({ value }: { value: unknown }) =>
    typeof value === "string" && /^\d+$/.test(value) ? Number(value) : value,
  ),
  IsInt({ message: "is a whole number" }),
  Min(1, { message: "is at least 1" }),
  Max(1_000_000_000, { message: "is at most 1,000,000,000" }),
];

/** So many rows or products at most. */
export const IsLimit = (): PropertyDecorator => (target, key) => {
  for (const rule of rules) rule(target, key);
};

/** The option of commands that show so many rows at most. */
export class LimitOptions {
  @IsLimit()
  limit?: number;
}
