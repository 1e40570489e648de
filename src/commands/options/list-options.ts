import { IsInt, IsOptional, IsString, Length, Max, Min } from "class-validator";
import { Transform } from "class-transformer";

/** Options of `lexicant list`. */
export class ListOptions {
  @IsOptional()
  @Transform(({ value }: { value: unknown }) =>
    typeof value === "string" && /^\d+$/.test(value) ? Number(value) : value,
  )
  @IsInt({ message: "is a whole number" })
  @Min(1, { message: "is at least 1" })
  @Max(1_000_000_000, { message: "is at most 1,000,000,000" })
  limit?: number;

  @IsOptional()
  @IsString({ message: "is a condition" })
  @Length(1, 10_000, { message: "is a condition of at most 10,000 characters" })
  where?: string;
}
