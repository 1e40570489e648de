import { Type } from "class-transformer";
import {
  Allow,
  ArrayNotEmpty,
  IsArray,
  IsDefined,
  IsIn,
  IsOptional,
  IsString,
  Matches,
  ValidateNested,
  IsObject,
} from "class-validator";
import type { PurposeName } from "../../core/channel/definition.js";
import { IsCurrencyCode } from "./rules.js";

const purposes: readonly PurposeName[] = ["full", "amend", "offer", "stock", "withdraw"];
const word = /^[a-z][a-z0-9_-]*$/;

export class GroupsModel {
  @IsIn(["separate"], { message: "is separate: each member is a listing of its own" })
  model!: "separate";

  @Matches(word, { message: "names the field that tells members apart" })
  told_apart_by!: string;
}

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

export class LayoutModel {
  @Matches(word, { message: "is a short name" })
  layout!: string;

  @IsIn(["rss", "tsv"], { message: "is rss or tsv" })
  format!: "rss" | "tsv";

  @Matches(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, { message: "is a plain file name" })
  file!: string;

  @IsOptional()
  @Matches(/^[a-z][a-z0-9]*$/, { message: "is a short prefix of small letters" })
  prefix?: string;

  @IsOptional()
  @IsString({ message: "is the namespace's URI" })
  namespace?: string;

  @IsOptional()
  @IsObject({ message: "gives title, link, description and guid a field each" })
  item?: Record<string, string>;

  @IsOptional()
  @IsArray({ message: "is a list of fields, or of name, field and part" })
  @Allow()
  columns?: (string | { name: string; field: string; part?: string; joined_by?: string })[];
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

  @IsDefined({ message: "says how products that vary together are listed" })
  @ValidateNested()
  @Type(() => GroupsModel)
  groups!: GroupsModel;

  @IsArray({ message: "is a list of purposes" })
  @IsIn(purposes, { each: true, message: `holds ${purposes.join(", ")}` })
  purposes!: PurposeName[];

  @IsOptional()
  @IsArray({ message: "is a list of rules" })
  @ValidateNested({ each: true })
  @Type(() => CrossRuleModel)
  rules?: CrossRuleModel[];

  @IsArray({ message: "is a list of layouts" })
  @ArrayNotEmpty({ message: "has at least one layout" })
  @ValidateNested({ each: true })
  @Type(() => LayoutModel)
  layouts!: LayoutModel[];
}
