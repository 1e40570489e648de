import { IsOptional, IsString, Length } from "class-validator";
import { LimitOptions } from "./limit-options.js";

/** Options of `lexicant categories` and `lexicant values`. */
export class CategoryOptions extends LimitOptions {
  @IsOptional()
  @IsString({ message: "is a category's code or path" })
  @Length(1, 1000, { message: "is a category's code or path" })
  under?: string;
}
