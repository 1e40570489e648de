import { IsOptional, IsString, Length } from "class-validator";

/** The options of commands that take the products which meet all that is asked. */
export class ChoiceOptions {
  @IsOptional()
  @IsString({ message: "is a condition" })
  @Length(1, 10_000, { message: "is a condition of at most 10,000 characters" })
  where?: string;

  @IsOptional()
  @IsString({ message: "is a category's path, or the end of one" })
  @Length(1, 1000, { message: "is a category's path, or the end of one" })
  category?: string;

  @IsOptional()
  @IsString({ message: "is a group's name" })
  group?: string;

  @IsOptional()
  @IsString({ message: "is a list of SKUs with commas between, or @FILE with one a line" })
  sku?: string;
}
