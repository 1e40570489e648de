/** `definition.yaml`, as class-validator checks it. */
import { Type } from "class-transformer";
import {
  Allow,
  ArrayNotEmpty,
  IsArray,
  IsDefined,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Matches,
  Min,
  ValidateIf,
  ValidateNested,
  IsObject,
} from "class-validator";
import { purposeNames, type PurposeName } from "../../core/channel/purpose-names.js";
import { groupModelNames } from "../../core/channel/group-model.js";
import { layoutFormats } from "../../core/channel/layout-formats/layout-formats.js";
import { recordFormats, type RecordFormat } from "../../core/channel/record-format.js";
import { ExchangeModel } from "./exchange-model.js";
import { FreeNames, ArePurposes, IsCurrencyCode, YesOrNo } from "./rules.js";

const formats = layoutFormats;
const word = /^[a-z][a-z0-9_-]*$/;

/** How groups are shown. */
export class GroupsModel {
  @IsIn(groupModelNames, { message: `is one of ${groupModelNames.join(", ")}` })
  model!: (typeof groupModelNames)[number];

  @ValidateIf(({ model }: GroupsModel) => model === "separate")
  @Matches(word, { message: "names the field that tells members apart" })
  told_apart_by?: string;

  @ValidateIf(({ model }: GroupsModel) => model !== "separate")
  @Matches(word, { message: "names the field by which members show their group" })
  group_field?: string;
}

/** Bounds of the files of one layout. */
export class LayoutLimitsModel {
  @IsOptional()
  @IsInt({ message: "is a whole number of rows" })
  @Min(1, { message: "is at least 1" })
  rows?: number;

  @IsOptional()
  @IsInt({ message: "is a whole number of megabytes" })
  @Min(1, { message: "is at least 1" })
  megabytes?: number;
}

/** Bounds of the channel's files. */
export class FileLimitsModel extends LayoutLimitsModel {
  @IsOptional()
  @YesOrNo()
  name_once?: boolean;
}

/** How the channel's result report is read. */
export class ResultsModel {
  @IsIn(recordFormats, { message: `is one of ${recordFormats.join(", ")}` })
  format!: RecordFormat;

  @IsString({ message: "names where our reference stands" })
  ref!: string;

  @IsOptional()
  @IsString({ message: "names where the number of the file's row stands" })
  row?: string;

  @IsOptional()
  @IsString({ message: "names where the id stands that the channel gives" })
  id?: string;

  @IsOptional()
  @IsString({ message: "names where the field stands that was refused" })
  field?: string;

  @IsString({ message: "names where the state stands" })
  state!: string;

  @IsString({ message: "names where the error's code stands" })
  code!: string;

  @IsString({ message: "names where the message stands" })
  message!: string;

  @IsArray({ message: "lists the states that mean it was accepted" })
  @IsString({ each: true, message: "lists the states that mean it was accepted" })
  accepted!: string[];

  @IsOptional()
  @IsIn(["accepted", "unanswered"], {
    message: "is accepted or unanswered: what a row is that the report leaves out",
  })
  silence_means?: "accepted" | "unanswered";
}

/** A rule between fields. */
export class CrossRuleModel {
  @Matches(word, { message: "is a short name for the rule" })
  rule!: string;

  @IsOptional()
  @IsString({ message: "is * or a category code" })
  scope?: string;

  @IsDefined({ message: "is the expression that must hold" })
  holds!: unknown;

  @IsString({ message: "says in one sentence what is demanded" })
  says!: string;

  @IsOptional()
  @IsIn(["error", "warning", "advice"], { message: "is error, warning or advice" })
  severity?: "error" | "warning" | "advice";
}

/** A layout. */
export class LayoutModel {
  @Matches(word, { message: "is a short name" })
  layout!: string;

  @IsIn(formats, { message: `is one of ${formats.join(", ")}` })
  format!: (typeof formats)[number];

  @Matches(/^[A-Za-z0-9](?:[A-Za-z0-9._-]|\{(?:count|date)\})*$/, {
    message: "is a plain file name, in which {count} and {date} may stand",
  })
  file!: string;

  @IsOptional()
  @Matches(/^[a-z][a-z0-9]*$/, { message: "is a short prefix of small letters" })
  prefix?: string;

  @IsOptional()
  @IsString({ message: "is the namespace's URI" })
  namespace?: string;

  @IsOptional()
  @IsObject({ message: "gives title, link, description and guid a field each" })
  @FreeNames()
  item?: Record<string, string>;

  @IsOptional()
  @ArrayNotEmpty({ message: "names at least one purpose" })
  @IsIn(purposeNames, { each: true, message: `lists what its files are for: ${purposeNames.join(", ")}` })
  purposes?: PurposeName[];

  @IsOptional()
  @ValidateNested()
  @Type(() => LayoutLimitsModel)
  file_limits?: LayoutLimitsModel;

  @IsOptional()
  @IsObject({ message: "holds what the format has to know beside its columns" })
  @FreeNames()
  settings?: Record<string, unknown>;

  @IsOptional()
  @IsArray({ message: "is a list of fields, or of name, field and part" })
  @Allow()
  columns?: (
    | string
    | {
        name: string;
        field?: string;
        part?: string;
        joined_by?: string;
        says?: string;
        repeat?: number;
        item?: number;
        at?: string;
      }
  )[];
}

/** The fields that hold what checks between listings look at. */
export class RolesModel {
  @IsOptional()
  @Matches(word, { message: "names the field with the title" })
  name?: string;

  @IsOptional()
  @Matches(word, { message: "names the field with the description" })
  description?: string;

  @IsOptional()
  @Matches(word, { message: "names the field with the search words" })
  keywords?: string;

  @IsOptional()
  @Matches(word, { message: "names the field with the price" })
  price?: string;
}

/** `definition.yaml`: what a channel is, beside its tables of categories, fields and values. */
export class DefinitionModel {
  @Matches(/^[a-z0-9][a-z0-9-]*$/, { message: "is the channel's name in small letters" })
  channel!: string;

  @IsString({ message: "is the channel's name as people write it" })
  label!: string;

  @Matches(/^\S+$/, { message: 'is the definition\'s version, in quotes, such as "2026.1"' })
  version!: string;

  @IsArray({ message: "is a list of languages" })
  @ArrayNotEmpty({ message: "names at least one language" })
  @IsString({ each: true, message: "holds languages such as en" })
  languages!: string[];

  @IsArray({ message: "is a list of currency codes" })
  @ArrayNotEmpty({ message: "names at least one currency" })
  @IsCurrencyCode({ each: true })
  currencies!: string[];

  @IsArray({ message: "is a list of country codes" })
  @Matches(/^[A-Z]{2}$/, { each: true, message: "holds country codes such as GB (ISO 3166)" })
  countries!: string[];

  @Matches(word, { message: "names the field that holds our SKU" })
  identified_by!: string;

  @IsOptional()
  @Matches(word, { message: "names the field that holds the channel's category" })
  category_field?: string;

  @IsOptional()
  @IsIn(["path", "code"], { message: "is path or code: what the category's field shows" })
  category_by?: "path" | "code";

  @IsOptional()
  @IsObject({ message: "names the fields that hold name, description, keywords, price" })
  @ValidateNested()
  @Type(() => RolesModel)
  roles?: RolesModel;

  @IsDefined({ message: "says how products that vary together are listed" })
  @ValidateNested()
  @Type(() => GroupsModel)
  groups!: GroupsModel;

  @ArePurposes()
  purposes!: (
    | PurposeName
    | {
        purpose: PurposeName;
        blank?: "leave" | "erase";
        must?: string[];
        may?: string[];
        opens?: boolean;
        action?: string;
      }
  )[];

  @IsOptional()
  @IsObject({ message: "gives rows, megabytes, name_once" })
  @ValidateNested()
  @Type(() => FileLimitsModel)
  file_limits?: FileLimitsModel;

  @IsOptional()
  @IsObject({ message: "says how the result report is read" })
  @ValidateNested()
  @Type(() => ResultsModel)
  results?: ResultsModel;

  @IsOptional()
  @IsArray({ message: "is a list of rules" })
  @ValidateNested({ each: true })
  @Type(() => CrossRuleModel)
  rules?: CrossRuleModel[];

  @IsOptional()
  @IsObject({ message: "says how files are sent and answers fetched" })
  @ValidateNested()
  @Type(() => ExchangeModel)
  exchange?: ExchangeModel;

  @IsArray({ message: "is a list of layouts" })
  @ArrayNotEmpty({ message: "has at least one layout" })
  @ValidateNested({ each: true })
  @Type(() => LayoutModel)
  layouts!: LayoutModel[];
}
