/** `lexicant.yaml`, as class-validator checks it. */
import { Type } from "class-transformer";
import {
  ArrayUnique,
  IsArray,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  ValidateNested,
} from "class-validator";
import type { DeclaredAttribute } from "../own-kinds.js";
import { AreDeclaredAttributes, AreLayers, FreeNames, IsCurrencyCode, IsTimeZone } from "./rules.js";
import { TellingModel } from "./telling-model.js";

/** `lexicant.yaml`: the shop and what its workspace consists of. */
export class ManifestModel {
  @IsString({ message: "the shop's name is wanted" })
  @Length(1, 120, { message: "has 1 to 120 characters" })
  shop!: string;

  @Matches(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, { message: "is a language such as en or de (BCP 47)" })
  language!: string;

  @IsCurrencyCode()
  currency!: string;

  /** Where the shop is, by the time zone database: when its days begin and end. */
  @IsOptional()
  @IsTimeZone()
  time_zone?: string;

  @AreLayers()
  layers!: (string | { layer: string; channel: string })[];

  @IsOptional()
  @IsArray({ message: "is a list of channel names" })
  @ArrayUnique({ message: "names each channel once" })
  @Matches(/^[a-z0-9][a-z0-9-]*$/, {
    each: true,
    message: "each channel's name has small letters, digits and dashes",
  })
  channels?: string[];

  /** Kinds and permitted values of attributes of the shop's own. */
  @IsOptional()
  @AreDeclaredAttributes()
  @FreeNames()
  attributes?: Record<string, DeclaredAttribute>;

  @IsOptional()
  @IsObject({ message: "gives mail or command" })
  @ValidateNested()
  @Type(() => TellingModel)
  tell?: TellingModel;
}
