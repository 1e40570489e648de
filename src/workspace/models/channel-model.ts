/** `channel.yaml`, as class-validator checks it. */
import { Type } from "class-transformer";
import {
  Allow,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  IsUrl,
  Matches,
  Max,
  Min,
  ValidateNested,
} from "class-validator";
import { saleWishes, type SaleWish } from "../../core/listing/price/price-policy.js";
import { regroupings, type Regrouping } from "../../core/listing/regrouping.js";
import { AccountExchangeModel, ServeModel, SyncModel } from "./account-model.js";
import { FreeNames, IsAmount, IsHazardChoice, YesOrNo } from "./rules.js";

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

/** Which products the channel gets, beside the condition. */
export class SelectionModel {
  @IsOptional()
  @YesOrNo()
  digital?: boolean;

  @IsOptional()
  @IsHazardChoice()
  hazards?: boolean | string[];

  @IsOptional()
  @Matches(/^[A-Z]{2}$/, { each: true, message: "holds country codes such as GB (ISO 3166)" })
  countries?: string[];

  @IsOptional()
  @IsAmount()
  least_price?: string | number;

  @IsOptional()
  @IsInt({ message: "is a whole number of percent" })
  @Min(0, { message: "is at least 0" })
  @Max(100, { message: "is at most 100" })
  least_readiness?: number;
}

/** How the channel's prices come from the catalogue's. */
export class PricesModel {
  // Expressions by attribute: read from the file as written, and checked as such.
  @IsOptional()
  @IsObject({ message: "gives attributes an expression each, such as price: price * 1.08" })
  @FreeNames()
  rules?: Record<string, unknown>;

  @Allow()
  lowest?: unknown;

  @Allow()
  highest?: unknown;

  @IsOptional()
  @IsIn(["hold", "move"], { message: "is hold or move: hold the product, or move the price to its bound" })
  outside?: "hold" | "move";

  @IsOptional()
  @IsIn(saleWishes, { message: `is one of ${saleWishes.join(", ")}` })
  sales?: SaleWish;

  @IsOptional()
  @IsNumber({}, { message: "is a number of percent" })
  @Min(0, { message: "is at least 0" })
  greatest_change?: number;
}

/** How the channel's stock comes from the catalogue's. */
export class StockModel {
  @IsOptional()
  @IsInt({ message: "is a whole number of pieces" })
  @Min(0, { message: "is at least 0" })
  held_back?: number;

  @IsOptional()
  @IsNumber({}, { message: "is a number of percent" })
  @Min(0, { message: "is at least 0" })
  @Max(100, { message: "is at most 100" })
  share?: number;

  @IsOptional()
  @IsInt({ message: "is a whole number of pieces" })
  @Min(0, { message: "is at least 0" })
  at_most?: number;
}

/** What becomes of groups that vary by more than the channel takes. */
export class ChannelGroupsModel {
  @IsOptional()
  @IsIn(regroupings, { message: `is one of ${regroupings.join(", ")}` })
  not_permitted?: Regrouping;
}

/** Findings that a person has decided not to see; each key given narrows what is meant. */
export class SilenceModel {
  @IsOptional()
  @IsString({ message: "is a finding's code, such as missing-recommended" })
  code?: string;

  @IsOptional()
  @IsString({ message: "is a field of the channel" })
  field?: string;

  @IsOptional()
  @IsString({ message: "is a category of ours or of the channel's" })
  category?: string;

  @IsOptional()
  @IsString({ message: "is a SKU, in quotes where it is a number" })
  product?: string;

  @IsOptional()
  @IsString({ message: "says why, for those who come later" })
  because?: string;
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
  @Type(() => SelectionModel)
  selection?: SelectionModel;

  @IsOptional()
  @IsObject({ message: "holds settings, one a line" })
  @ValidateNested()
  @Type(() => PricesModel)
  prices?: PricesModel;

  @IsOptional()
  @IsObject({ message: "holds settings, one a line" })
  @ValidateNested()
  @Type(() => StockModel)
  stock?: StockModel;

  @IsOptional()
  @IsObject({ message: "holds settings, one a line" })
  @ValidateNested()
  @Type(() => ChannelGroupsModel)
  groups?: ChannelGroupsModel;

  @IsOptional()
  @IsArray({ message: "is a list of what is not to be shown" })
  @ValidateNested({ each: true })
  @Type(() => SilenceModel)
  silence?: SilenceModel[];

  @IsOptional()
  @IsObject({ message: "holds settings, one a line" })
  @ValidateNested()
  @Type(() => AccountModel)
  account?: AccountModel;

  @IsOptional()
  @IsObject({ message: "holds settings, one a line" })
  @ValidateNested()
  @Type(() => AccountExchangeModel)
  exchange?: AccountExchangeModel;

  @IsOptional()
  @IsObject({ message: "holds settings, one a line" })
  @ValidateNested()
  @Type(() => ServeModel)
  serve?: ServeModel;

  @IsOptional()
  @IsObject({ message: "holds settings, one a line" })
  @ValidateNested()
  @Type(() => SyncModel)
  sync?: SyncModel;
}
