import { IsOptional, IsString, Matches } from "class-validator";
import { ChoiceOptions } from "./choice-options.js";

/** Options of `lexicant export`. */
export class ExportOptions extends ChoiceOptions {
  @IsOptional()
  @Matches(/^[a-z0-9][a-z0-9-]*$/, { message: "is a channel's name" })
  lacking?: string;

  @IsOptional()
  @Matches(/^[a-z0-9][a-z0-9-]*$/, { message: "is a channel's name" })
  forChannel?: string;

  @IsOptional()
  @IsString({ message: "is a list of attributes with commas between" })
  only?: string;
}
