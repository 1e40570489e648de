import { IsIn, IsOptional, IsString, Length } from "class-validator";
import { LimitOptions } from "./limit-options.js";
import type { PurposeName } from "../../core/channel/definition.js";

const purposes: readonly PurposeName[] = ["full", "amend", "offer", "stock", "withdraw"];

/** Options of `lexicant build`. */
export class BuildOptions extends LimitOptions {
  @IsOptional()
  @IsIn(purposes, { message: `is one of ${purposes.join(", ")}` })
  purpose?: PurposeName;

  @IsOptional()
  @IsString({ message: "is a list of SKUs, or all" })
  @Length(1, 100_000, { message: "is a list of SKUs, or all" })
  confirmPrices?: string;

  @IsOptional()
  @IsString({ message: "is a list of fields with commas between" })
  only?: string;

  @IsOptional()
  @IsString({ message: "is a condition" })
  @Length(1, 10_000, { message: "is a condition of at most 10,000 characters" })
  where?: string;

  @IsOptional()
  @IsString({ message: "is a category's path, or the end of one" })
  category?: string;

  @IsOptional()
  @IsString({ message: "is the channel's result report" })
  failed?: string;

  @IsOptional()
  @IsString({ message: "is a group's name" })
  group?: string;

  @IsOptional()
  @IsString({ message: "is a list of SKUs with commas between, or @FILE with one a line" })
  sku?: string;

  @IsOptional()
  @IsString({ message: "is a folder" })
  @Length(1, 1000, { message: "is a folder" })
  out?: string;
}
