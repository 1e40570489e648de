/** What a file is for. A definition names those that its channel takes. */
export const purposeNames = ["full", "amend", "offer", "stock", "withdraw"] as const;

export type PurposeName = (typeof purposeNames)[number];
