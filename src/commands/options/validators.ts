/** The rules of class-validator that options are checked by: what is not named here need not be loaded. */
export {
  IsArray,
  IsIn,
  IsInt,
  IsNotEmpty,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateBy,
} from "class-validator";
