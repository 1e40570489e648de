import { Transform } from "class-transformer";
import { IsInt, IsOptional, IsString, Length, Max, Min } from "class-validator";

const text = (message: string): PropertyDecorator => {
  const rules = [IsOptional(), IsString({ message }), Length(1, 300, { message })];
  return (target, key) => rules.forEach((rule) => rule(target, key));
};

/** Options of `lexicant check`. */
export class CheckOptions {
  @text("is a product's SKU")
  sku?: string;

  @text("is a category of ours or of the channel's, by path or code")
  category?: string;

  @text("is a field of the channel")
  field?: string;

  @text("is a finding's code, such as missing-required")
  code?: string;

  @IsOptional()
  @Transform(({ value }: { value: unknown }) =>
    typeof value === "string" && /^\d+$/.test(value) ? Number(value) : value,
  )
  @IsInt({ message: "is a whole number" })
  @Min(0, { message: "is at least 0" })
  @Max(1_000_000_000, { message: "is at most 1,000,000,000" })
  maxErrors?: number;
}
