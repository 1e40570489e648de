import { Transform } from "class-transformer";
import { IsInt, IsOptional, IsString, Length, Max, Min } from "class-validator";

/** Options of `lexicant categories` and `lexicant values`. */
export class CategoryOptions {
  @IsOptional()
  @IsString({ message: "is a category's code or path" })
  @Length(1, 1000, { message: "is a category's code or path" })
  under?: string;

  @IsOptional()
  @Transform(({ value }: { value: unknown }) =>
    typeof value === "string" && /^\d+$/.test(value) ? Number(value) : value,
  )
  @IsInt({ message: "is a whole number" })
  @Min(1, { message: "is at least 1" })
  @Max(1_000_000_000, { message: "is at most 1,000,000,000" })
  limit?: number;
}
