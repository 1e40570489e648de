import { Transform } from "class-transformer";
import { IsIn, IsInt, IsOptional, Max, Min } from "class-validator";
import { readinessKinds, type ReadinessKind } from "../../core/listing/readiness/readiness-tally.js";
import { LimitOptions } from "./limit-options.js";

/** Options of `lexicant readiness`. */
export class ReadinessOptions extends LimitOptions {
  @IsOptional()
  @IsIn(readinessKinds, { message: `is one of ${readinessKinds.join(", ")}` })
  by?: ReadinessKind;

  @IsOptional()
  @Transform(({ value }: { value: unknown }) =>
    typeof value === "string" && /^\d+$/.test(value) ? Number(value) : value,
  )
  @IsInt({ message: "is a whole number of percent" })
  @Min(1, { message: "is at least 1" })
  @Max(100, { message: "is at most 100" })
  below?: number;
}
