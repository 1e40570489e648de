import { IsIn, IsOptional } from "class-validator";
import { LimitOptions } from "./limit-options.js";

/** Options of `lexicant diff`. */
export class DiffOptions extends LimitOptions {
  @IsOptional()
  @IsIn(["sent", "built"], { message: "is sent or built" })
  against?: "sent" | "built";
}
