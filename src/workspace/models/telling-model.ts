/** Who is told of what, as class-validator checks it. */
import { Type } from "class-transformer";
import {
  ArrayNotEmpty,
  IsArray,
  IsEmail,
  IsIn,
  IsObject,
  IsOptional,
  IsString,
  Matches,
  ValidateNested,
} from "class-validator";

/** Occasions on which somebody is told. */
export const occasions = [
  "job-ended",
  "job-refused",
  "rebuild-failed",
  "feed-not-fetched",
  "sync-stopped",
] as const;

/** What somebody can be told of. */
export type Occasion = (typeof occasions)[number];

const variable = /^[A-Z][A-Z0-9_]*$/;
const isVariable = { message: "names an environment variable: the secret itself never stands here" };

/** Letters. */
export class MailModel {
  @IsArray({ message: "is a list of addresses" })
  @ArrayNotEmpty({ message: "names at least one address" })
  @IsEmail({ require_tld: false }, { each: true, message: "holds mail addresses" })
  to!: string[];

  @IsEmail({ require_tld: false }, { message: "is a mail address" })
  from!: string;

  @Matches(/^smtps?:\/\/[^\s@/]+$/, {
    message: "is smtp://host:port or smtps://host:port, without a password in it",
  })
  server!: string;

  @IsOptional()
  @Matches(variable, isVariable)
  user_from?: string;

  @IsOptional()
  @Matches(variable, isVariable)
  password_from?: string;
}

/** Who is told when something happened that nobody was there to see. */
export class TellingModel {
  @IsOptional()
  @IsArray({ message: `is a list of ${occasions.join(", ")}` })
  @IsIn(occasions, { each: true, message: `holds ${occasions.join(", ")}` })
  on?: Occasion[];

  @IsOptional()
  @IsObject({ message: "gives to, from and server" })
  @ValidateNested()
  @Type(() => MailModel)
  mail?: MailModel;

  @IsOptional()
  @IsArray({ message: "is a program and its arguments, each by itself" })
  @ArrayNotEmpty({ message: "names a program" })
  @IsString({ each: true, message: "is a program and its arguments, each by itself" })
  command?: string[];
}
