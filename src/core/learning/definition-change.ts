/** What changes between two versions of a definition. */
export type DefinitionChange =
  | { readonly change: "field-added"; readonly field: string; readonly label: string; readonly need: string }
  | { readonly change: "field-gone"; readonly field: string; readonly label: string }
  | {
      readonly change: "field-renamed";
      readonly field: string;
      readonly label: string;
      readonly to: string;
      readonly toLabel: string;
      readonly confidence: number;
      readonly because: string;
    }
  | {
      readonly change: "field-moved";
      readonly field: string;
      readonly label: string;
      readonly scope: string;
      readonly what: string;
      readonly from: string;
      readonly to: string;
    }
  | {
      readonly change: "value-added" | "value-gone";
      readonly field: string;
      readonly label: string;
      readonly scope: string;
      readonly value: string;
    }
  | {
      readonly change: "value-renamed";
      readonly field: string;
      readonly label: string;
      readonly scope: string;
      readonly value: string;
      readonly to: string;
      readonly confidence: number;
    }
  | { readonly change: "category-added" | "category-gone"; readonly code: string; readonly path: string }
  | {
      readonly change: "category-moved";
      readonly code: string;
      readonly path: string;
      readonly to: string;
      readonly toPath: string;
      readonly confidence: number;
    };
