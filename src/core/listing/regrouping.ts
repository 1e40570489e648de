/** What becomes of a group that varies by more than its category takes: held, split by what is too much, or each alone. */
export const regroupings = ["hold", "split", "alone"] as const;

export type Regrouping = (typeof regroupings)[number];
