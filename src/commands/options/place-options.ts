import { IsArray, IsOptional, IsString, Length } from "class-validator";
import { ConfidenceOptions } from "./confidence-options.js";

/** Options of `lexicant place`. */
export class PlaceOptions extends ConfidenceOptions {
  @IsOptional()
  @IsArray({ message: 'is "Our path"=CODE' })
  @IsString({ each: true, message: 'is "Our path"=CODE' })
  set?: string[];

  @IsOptional()
  @IsString({ message: "is a name" })
  @Length(1, 80, { message: "has 1 to 80 characters" })
  by?: string;
}
