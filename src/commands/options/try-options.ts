import { IsOptional, IsString, Length, Matches } from "class-validator";
import { LimitOptions } from "./limit-options.js";

/** Options of `lexicant try`. */
export class TryOptions extends LimitOptions {
  @IsOptional()
  @IsString({ message: "is a product's SKU" })
  @Length(1, 200, { message: "is a product's SKU" })
  sku?: string;

  @IsOptional()
  @Matches(/^[a-z0-9][a-z0-9-]*$/, { message: "is a channel's name" })
  channel?: string;
}
