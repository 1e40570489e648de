import type { FieldCode } from "../ids.js";

/** Models in which members carry their group in a field, and whether the group's own fields stand once, apart from them. */
export const groupedModels = {
  /** Below a row of the group's own. */
  "group-row": { hasOwn: true },
  /** Behind one that leads. */
  "leading-member": { hasOwn: false },
  /** All equal. */
  "shared-id": { hasOwn: false },
  /** Within the group. */
  nested: { hasOwn: true },
} as const;

/** Models in which members stand in their group. */
export type GroupedModel = keyof typeof groupedModels;

/** How a channel shows products that vary together. */
export type GroupModel =
  /** Each member is a listing of its own; a field tells them apart. */
  | { readonly model: "separate"; readonly toldApartBy: FieldCode }
  | { readonly model: GroupedModel; readonly groupField: FieldCode };

/** Every model by its name. */
export const groupModelNames = ["separate", ...(Object.keys(groupedModels) as GroupedModel[])] as const;

/** The field in which members show their group; undefined where each stands by itself. */
export const groupFieldOf = (groups: GroupModel): FieldCode | undefined =>
  groups.model === "separate" ? undefined : groups.groupField;

/** The field that tells members apart where each is shown by itself; undefined where they are shown as a group. */
export const toldApartBy = (groups: GroupModel): FieldCode | undefined =>
  groups.model === "separate" ? groups.toldApartBy : undefined;

/** Whether a group's fields stand once, in a row or element of its own. */
export const hasGroupsOwn = (groups: GroupModel): boolean =>
  groups.model !== "separate" && groupedModels[groups.model].hasOwn;
