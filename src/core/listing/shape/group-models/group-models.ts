import type { GroupModel } from "../../../channel/group-model.js";
import type { ShapeFamily } from "./group-model.js";
import { groupRow } from "./group-row.js";
import { leadingMember } from "./leading-member.js";
import { nested } from "./nested.js";
import { separate } from "./separate.js";
import { sharedId } from "./shared-id.js";

/** Every way in which channels show products that vary together. */
export const groupModels: Readonly<Record<GroupModel["model"], ShapeFamily>> = {
  separate,
  "shared-id": sharedId,
  "leading-member": leadingMember,
  "group-row": groupRow,
  nested,
};
