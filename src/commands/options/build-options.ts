import { IsIn, IsOptional, IsString, Length } from "class-validator";
import { ChoiceOptions } from "./choice-options.js";
import { IsLimit } from "./limit-options.js";
import { purposeNames, type PurposeName } from "../../core/channel/definition.js";

/** Options of `lexicant build`. */
export class BuildOptions extends ChoiceOptions {
  @IsLimit()
  limit?: number;

  @IsOptional()
  @IsIn(purposeNames, { message: `is one of ${purposeNames.join(", ")}` })
  purpose?: PurposeName;

  @IsOptional()
  @IsString({ message: "is a list of SKUs, or all" })
  @Length(1, 100_000, { message: "is a list of SKUs, or all" })
  confirmPrices?: string;

  @IsOptional()
  @IsString({ message: "is a list of fields with commas between" })
  only?: string;

  @IsOptional()
  @IsString({ message: "is the channel's result report" })
  failed?: string;

  @IsOptional()
  @IsString({ message: "is a folder" })
  @Length(1, 1000, { message: "is a folder" })
  out?: string;
}
