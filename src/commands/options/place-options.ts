import { Transform } from "class-transformer";
import { IsArray, IsNumber, IsOptional, IsString, Length, Max, Min } from "class-validator";

/** Options of `lexicant place`. */
export class PlaceOptions {
  @IsOptional()
  @Transform(({ value }: { value: unknown }) =>
    typeof value === "string" && /^(?:0?\.\d+|0|1(?:\.0+)?)$/.test(value) ? Number(value) : value,
  )
  @IsNumber({}, { message: "is a confidence from 0 to 1, such as 0.9" })
  @Min(0, { message: "is at least 0" })
  @Max(1, { message: "is at most 1" })
  acceptAbove?: number;

  @IsOptional()
  @IsArray({ message: 'is "Our path"=CODE' })
  @IsString({ each: true, message: 'is "Our path"=CODE' })
  set?: string[];

  @IsOptional()
  @IsString({ message: "is a name" })
  @Length(1, 80, { message: "has 1 to 80 characters" })
  by?: string;
}
