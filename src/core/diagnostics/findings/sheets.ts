import { asOne, byField, rowFinding } from "../finding.js";
import { quote } from "../phrases.js";

/** Gap sheets that come back. */
export const sheets = {
  "changed-sku": rowFinding<{ readonly was: string; readonly now: string }>({
    says: ({ was, now }) =>
      now === ""
        ? `the SKU of this row was ${quote(was)} and is blank now; nothing was taken from the row: write the SKU again`
        : `the SKU of this row was ${quote(was)} and is ${quote(now)} now; nothing was taken from the row: write the right one again`,
    ofMany: asOne,
    apart: byField,
  }),
  "sheet-begun": rowFinding<{ readonly path: string; readonly answers: number }>({
    says: ({ path, answers }) =>
      `${quote(path)} holds ${answers} answer${answers === 1 ? "" : "s"} that ${answers === 1 ? "was" : "were"} filled in and not imported: "lexicant import ${path}" takes them; or name another sheet with --out; --force writes over them`,
    ofMany: asOne,
    apart: byField,
  }),
  "another-shop": rowFinding<{ readonly shop: string; readonly own: string }>({
    says: ({ shop, own }) =>
      `this gap sheet was made for ${quote(shop)}, and this is the workspace of ${quote(own)}; nothing was taken`,
    ofMany: asOne,
    apart: byField,
  }),
  "older-sheet": rowFinding<{ readonly channel: string; readonly then: string; readonly now: string }>({
    says: ({ channel, then, now }) =>
      `this gap sheet was made when ${channel} had version ${then}; answers are held against ${now}`,
    ofMany: asOne,
    apart: byField,
  }),
  "answer-without-question": rowFinding<{ readonly channel: string; readonly field: string }>({
    says: ({ channel, field }) =>
      `${channel} asks nothing of this product in ${quote(field)} any more; the answer was not taken`,
    ofMany: asOne,
    apart: byField,
  }),
  "contradicting-answers": rowFinding<{
    readonly term: string;
    readonly first: string;
    readonly value: string;
  }>({
    says: ({ term, first, value }) =>
      `${quote(term)} is ${quote(first)} in an earlier row and ${quote(value)} here; a term has one value: the first was taken`,
    ofMany: asOne,
    apart: byField,
  }),
} as const;
