import { Type } from "class-transformer";
import { Allow, IsObject, IsOptional, IsString, IsUrl, Matches, ValidateNested } from "class-validator";

/** Account settings that the channel's files show. */
export class AccountModel {
  @IsOptional()
  @IsString({ message: "is a text" })
  title?: string;

  @IsOptional()
  @IsString({ message: "is a text" })
  description?: string;

  @IsOptional()
  @IsUrl(
    { protocols: ["http", "https"], require_protocol: true },
    { message: "is a web address that starts with https://" },
  )
  shop_url?: string;
}

/** `channel.yaml`: our side of a channel. */
export class ChannelModel {
  @Matches(/^[a-z0-9][a-z0-9-]*$/, { message: "names the channel's definition" })
  definition!: string;

  @IsOptional()
  @Matches(/^\S+$/, { message: 'is the definition\'s version, in quotes, such as "2026.1"' })
  version?: string;

  // An expression: read from the file as written, and checked as such.
  @Allow()
  select?: unknown;

  @IsOptional()
  @IsObject({ message: "holds settings, one a line" })
  @ValidateNested()
  @Type(() => AccountModel)
  account?: AccountModel;
}
