import { IsIn, IsOptional, IsString, Length } from "class-validator";
import type { PurposeName } from "../../core/channel/definition.js";

const purposes: readonly PurposeName[] = ["full", "amend", "offer", "stock", "withdraw"];

/** Options of `lexicant build`. */
export class BuildOptions {
  @IsOptional()
  @IsIn(purposes, { message: `is one of ${purposes.join(", ")}` })
  purpose?: PurposeName;

  @IsOptional()
  @IsString({ message: "is a list of SKUs, or all" })
  @Length(1, 100_000, { message: "is a list of SKUs, or all" })
  confirmPrices?: string;

  @IsOptional()
  @IsString({ message: "is a folder" })
  @Length(1, 1000, { message: "is a folder" })
  out?: string;
}
