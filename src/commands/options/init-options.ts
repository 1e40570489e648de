import { IsArray, IsOptional, IsString, Length, Matches } from "class-validator";
import { IsCurrencyCode } from "../../workspace/models/rules.js";

/** Options of `lexicant init`. */
export class InitOptions {
  @IsOptional()
  @IsString({ message: "is the shop's name" })
  @Length(1, 120, { message: "has 1 to 120 characters" })
  shop?: string;

  @IsOptional()
  @Matches(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, { message: "is a language such as en or de (BCP 47)" })
  language?: string;

  @IsOptional()
  @IsCurrencyCode()
  currency?: string;

  @IsOptional()
  @IsArray()
  @Matches(/^[a-z0-9][a-z0-9-]*$/, { each: true, message: "is a channel's name" })
  channel?: string[];
}
