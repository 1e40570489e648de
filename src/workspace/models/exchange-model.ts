/** The exchange of `definition.yaml`, as class-validator checks it. */
import { recordFormats } from "../../core/channel/record-format.js";
import { Type } from "class-transformer";
import {
  ArrayNotEmpty,
  IsArray,
  IsIn,
  IsObject,
  IsOptional,
  IsString,
  Matches,
  ValidateIf,
  ValidateNested,
} from "class-validator";
import {
  repeatings,
  sendingWays,
  type LiveLayout,
  type Repeating,
  type SendingWay,
} from "../../core/channel/exchange-definition.js";
import { AreAlterations, AreTexts, FreeNames } from "./rules.js";

/** A path below the account's address: it leads to no other host, and never up. */
const path = /^(?!.*(?:^|\/)\.\.(?:\/|$))(?!\/\/)(?![a-z]+:)[^\s\\]+$/;
const isPath = { message: "is a path below the account's address, such as /inbox/{file}" };
const header = /^[A-Za-z][A-Za-z0-9-]*$/;

/** How a file is sent. */
export class SendModel {
  @IsIn(sendingWays, { message: `is one of ${sendingWays.join(", ")}: how a file gets there` })
  as!: SendingWay;

  @Matches(path, isPath)
  to!: string;

  @IsOptional()
  @IsString({ message: "names the layout whose files are sent" })
  layout?: string;

  @IsOptional()
  @Matches(/^(?:[A-Za-z0-9._-]|\{(?:stem|ending|number|action|account|purpose)\})+$/, {
    message:
      "is a file name, in which {stem}, {ending}, {number}, {action}, {purpose} and {account} may stand",
  })
  name?: string;

  @IsOptional()
  @IsString({ message: "names the form's part that holds the file" })
  file_part?: string;

  @IsOptional()
  @IsObject({ message: "gives further parts of the form a text each" })
  @FreeNames()
  @AreTexts()
  parts?: Record<string, string>;

  @IsOptional()
  @IsIn(repeatings, { message: `is one of ${repeatings.join(", ")}: why a sending can be done again` })
  again?: Repeating;

  @ValidateIf(({ again }: SendModel) => again === "key")
  @Matches(header, { message: "names the header that carries the key of a sending" })
  key_header?: string;

  @IsOptional()
  @IsString({ message: "says where in the answer the job's reference stands" })
  job?: string;
}

/** How a token is shown. */
export class TokenModel {
  @Matches(header, { message: "names a header, such as Authorization" })
  header!: string;

  @Matches(/\{token\}/, { message: "is the header's text, with {token} in it" })
  says!: string;
}

/** Where something is fetched. */
export class FromModel {
  @Matches(path, isPath)
  from!: string;
}

/** How a file that may have arrived is found. */
export class FindModel extends FromModel {
  @IsOptional()
  @IsString({ message: "says where in the answer the job's reference stands" })
  job?: string;
}

/** How far a job is. */
export class ProgressModel extends FromModel {
  @IsString({ message: "says where in the answer the state stands" })
  state!: string;

  @IsOptional()
  @IsString({ message: "says where in the answer the percentage stands" })
  percent?: string;

  @IsOptional()
  @IsString({ message: "says where in the answer the reason stands" })
  because?: string;

  @ArrayNotEmpty({ message: "lists the states in which there is a report" })
  @IsString({ each: true, message: "lists the states in which there is a report" })
  done!: string[];

  @IsOptional()
  @IsArray({ message: "lists the states in which nothing of a file was taken" })
  @IsString({ each: true, message: "lists the states in which nothing of a file was taken" })
  thrown_out?: string[];
}

/** How the live export is read. */
export class LiveModel extends FromModel {
  @IsIn(recordFormats, { message: `is one of ${recordFormats.join(", ")}` })
  format!: LiveLayout["format"];

  @IsOptional()
  @IsString({ message: "names the layout whose columns it has" })
  layout?: string;

  @IsOptional()
  @IsString({ message: "is the path of a record" })
  records?: string;

  @IsOptional()
  @IsString({ message: "names the column with the channel's own id" })
  id?: string;

  @IsOptional()
  @IsString({ message: "names the column that tells a group's own row" })
  kind?: string;

  @IsOptional()
  @IsString({ message: "is that column's word for a group's own row" })
  group_kind?: string;

  @IsOptional()
  @IsObject({ message: "gives fields, or *, what the channel does to their texts" })
  @FreeNames()
  @AreAlterations()
  alters?: LiveLayout["alters"];
}

/** How a channel takes files, says what became of them, and shows what it has. */
export class ExchangeModel {
  @IsObject({ message: "says how a file is sent" })
  @ValidateNested()
  @Type(() => SendModel)
  send!: SendModel;

  @IsOptional()
  @Matches(path, isPath)
  trial?: string;

  @IsOptional()
  @IsObject({ message: "says which header shows the token" })
  @ValidateNested()
  @Type(() => TokenModel)
  token?: TokenModel;

  @IsOptional()
  @IsObject({ message: "says where the progress of a file is asked for" })
  @ValidateNested()
  @Type(() => ProgressModel)
  progress?: ProgressModel;

  @IsOptional()
  @IsObject({ message: "says where a file is looked for by its name" })
  @ValidateNested()
  @Type(() => FindModel)
  find?: FindModel;

  @IsOptional()
  @Matches(path, isPath)
  report?: string;

  @IsOptional()
  @IsObject({ message: "says how the export of live listings is read" })
  @ValidateNested()
  @Type(() => LiveModel)
  live?: LiveModel;

  @IsOptional()
  @Matches(path, isPath)
  categories?: string;
}
