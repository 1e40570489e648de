/** Settings of an account, as class-validator checks them. */
import { IsNumber, IsOptional, IsString, Matches, Max, Min } from "class-validator";
import { YesOrNo } from "./rules.js";

const variable = /^[A-Z][A-Z0-9_]*$/;
const isVariable = {
  message: "names an environment variable, such as MERROWGATE_TOKEN: the secret itself never stands here",
};

/** Where this account of a channel is reached, and where its secrets lie; never the secrets themselves. */
export class AccountExchangeModel {
  @IsOptional()
  @Matches(/^(?:https?:\/\/[^\s@]+|sftp:\/\/[^\s:]+(?::\d+)?(?:\/\S*)?|[^\s:][^:]*)$/, {
    message: "is a web address, sftp://user@host/folder, or a folder; without a password in it",
  })
  address?: string;

  @IsOptional()
  @Matches(variable, isVariable)
  token_from?: string;

  @IsOptional()
  @IsString({ message: "is a file that only its owner may read" })
  token_file?: string;

  @IsOptional()
  @Matches(variable, isVariable)
  password_from?: string;

  @IsOptional()
  @IsString({ message: "is the file of a private key that only its owner may read" })
  key_file?: string;

  @IsOptional()
  @Matches(/^SHA256:[A-Za-z0-9+/]{43}=?$/, {
    message: "is the host key's fingerprint, as ssh-keygen -lf shows it: SHA256:…",
  })
  host_key?: string;

  @IsOptional()
  @IsString({ message: "is the file of a certificate that is trusted beside those of the system" })
  certificate_file?: string;

  @IsOptional()
  @YesOrNo()
  private_address?: boolean;
}

/** How the channel's feed is published, and kept fresh. */
export class ServeModel {
  @IsOptional()
  @Matches(/^\S+ \S+ \S+ \S+ \S+(?: \S+)?$/, { message: 'is a cron expression, such as "30 2 * * *"' })
  rebuild?: string;

  @IsOptional()
  @Matches(/^[A-Za-z]+(?:\/[A-Za-z0-9_+-]+)*$/, { message: "is a time zone, such as Europe/London" })
  zone?: string;

  @IsOptional()
  @YesOrNo()
  on_change?: boolean;

  @IsOptional()
  @IsNumber({}, { message: "is a number of percent" })
  @Min(0, { message: "is at least 0" })
  @Max(100, { message: "is at most 100" })
  least_share?: number;

  @IsOptional()
  @IsNumber({}, { message: "is a number of hours" })
  @Min(0, { message: "is at least 0" })
  fetched_within?: number;

  @IsOptional()
  @YesOrNo()
  secret_path?: boolean;

  @IsOptional()
  @Matches(variable, isVariable)
  token_from?: string;
}

/** How much one `sync` may change before it stops and asks. */
export class SyncModel {
  @IsOptional()
  @IsNumber({}, { message: "is a number of percent" })
  @Min(0, { message: "is at least 0" })
  @Max(100, { message: "is at most 100" })
  most_withdrawn?: number;

  @IsOptional()
  @IsNumber({}, { message: "is a number of percent" })
  @Min(0, { message: "is at least 0" })
  @Max(100, { message: "is at most 100" })
  most_prices_moved?: number;
}
