import { Transform } from "class-transformer";
import { IsNumber, IsOptional, Max, Min } from "class-validator";

/** The option of commands that take over what is sure enough. */
export class ConfidenceOptions {
  @IsOptional()
  @Transform(({ value }: { value: unknown }) =>
    typeof value === "string" && /^(?:0?\.\d+|0|1(?:\.0+)?)$/.test(value) ? Number(value) : value,
  )
  @IsNumber({}, { message: "is a confidence from 0 to 1, such as 0.9" })
  @Min(0, { message: "is at least 0" })
  @Max(1, { message: "is at most 1" })
  acceptAbove?: number;
}
