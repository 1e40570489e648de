import { IsOptional, IsString, Length } from "class-validator";
import { LimitOptions } from "./limit-options.js";

/** Options of `lexicant list`. */
export class ListOptions extends LimitOptions {
  @IsOptional()
  @IsString({ message: "is a condition" })
  @Length(1, 10_000, { message: "is a condition of at most 10,000 characters" })
  where?: string;
}
