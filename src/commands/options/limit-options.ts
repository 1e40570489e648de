import { Transform } from "class-transformer";
import { IsInt, IsOptional, Max, Min } from "class-validator";

/** The option of commands that show so many rows at most. */
export class LimitOptions {
  @IsOptional()
  @Transform(({ value }: { value: unknown }) =>
    typeof value === "string" && /^\d+$/.test(value) ? Number(value) : value,
  )
  @IsInt({ message: "is a whole number" })
  @Min(1, { message: "is at least 1" })
  @Max(1_000_000_000, { message: "is at most 1,000,000,000" })
  limit?: number;
}
