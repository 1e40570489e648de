import { IsOptional, IsString, Length, Matches } from "class-validator";

/** Options of `lexicant export`. */
export class ExportOptions {
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
