import { IsOptional, IsString, Matches } from "class-validator";

/** Options of `lexicant gaps`. */
export class GapsOptions {
  @IsOptional()
  @IsString({ message: "names a file" })
  @Matches(/\.(?:xlsx|csv)$/i, { message: "ends in .xlsx or .csv" })
  out?: string;
}
