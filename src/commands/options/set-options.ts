import { IsOptional, Matches } from "class-validator";

/** Options of `lexicant set`. */
export class SetOptions {
  @IsOptional()
  @Matches(/^[a-z0-9][a-z0-9-]*$/, { message: "is a channel's name" })
  channel?: string;
}
