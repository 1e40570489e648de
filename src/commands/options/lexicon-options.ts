import { IsArray, IsOptional, IsString, Length } from "class-validator";
import { ConfidenceOptions } from "./confidence-options.js";

/** Options of `lexicant lexicon`. */
export class LexiconOptions extends ConfidenceOptions {
  @IsOptional()
  @IsArray({ message: 'is "field: our term = the channel\'s value"' })
  @IsString({ each: true, message: 'is "field: our term = the channel\'s value"' })
  set?: string[];

  @IsOptional()
  @IsString({ message: "is one of our categories" })
  @Length(1, 1000, { message: "is one of our categories" })
  in?: string;
}
