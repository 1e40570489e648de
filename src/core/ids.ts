declare const brand: unique symbol;
type Branded<Name extends string> = string & { readonly [brand]: Name };

/** Our stock-keeping unit, compared exactly. */
export type Sku = Branded<"Sku">;
/** A category of a channel's tree, by the definition's code. */
export type CategoryCode = Branded<"CategoryCode">;
/** A field of a channel, by the definition's code. */
export type FieldCode = Branded<"FieldCode">;

/** Takes a text for an SKU; at the border only. */
export const asSku = (text: string): Sku => text as Sku;
/** Takes a text for a category's code; at the border only. */
export const asCategoryCode = (text: string): CategoryCode => text as CategoryCode;
/** Takes a text for a field's code; at the border only. */
export const asFieldCode = (text: string): FieldCode => text as FieldCode;
