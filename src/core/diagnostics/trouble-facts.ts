/** Why an expression that is right in itself could not be worked out for one product. */
export type TroubleFacts =
  | { readonly trouble: "divided-by-zero" }
  | { readonly trouble: "number-too-large" }
  | { readonly trouble: "kinds-apart"; readonly left: string; readonly right: string }
  | { readonly trouble: "no-rate"; readonly from: string; readonly to: string; readonly day: string }
  | { readonly trouble: "no-table"; readonly table: string; readonly nearest: readonly string[] }
  | {
      readonly trouble: "no-table-column";
      readonly table: string;
      readonly column: string;
      readonly nearest: readonly string[];
    }
  | { readonly trouble: "no-table-row"; readonly table: string; readonly key: string }
  | { readonly trouble: "not-readable"; readonly value: string; readonly wanted: string }
  | { readonly trouble: "wrong-argument"; readonly name: string; readonly reason: string }
  /** A field of a group reads an attribute in which its members differ. */
  | { readonly trouble: "members-differ"; readonly attribute: string; readonly values: readonly string[] }
  | { readonly trouble: "fill-circle"; readonly fields: readonly string[] };
