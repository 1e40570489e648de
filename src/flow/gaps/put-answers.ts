import { editPlan } from "../one-act.js";
import type { CatalogueTransaction } from "../../store/store.js";
import type { Accepted } from "./answer-reading.js";

/** Puts answers into revisions of their own: one for each sheet and layer. */
export const putAnswers = async (
  transaction: CatalogueTransaction,
  accepted: readonly Accepted[],
  at: string,
): Promise<{ readonly revisions: readonly number[]; readonly unchanged: number }> => {
  const groups = new Map<string, Accepted[]>();
  for (const one of accepted) {
    const key = `${one.sheet.file}\u0000${one.layer}`;
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  const revisions: number[] = [];
  let unchanged = 0;
  for (const group of groups.values()) {
    const put = await putGroup(transaction, group, at);
    if (put.revision !== undefined) revisions.push(put.revision);
    unchanged += put.unchanged;
  }
  return { revisions, unchanged };
};

const putGroup = async (
  transaction: CatalogueTransaction,
  group: readonly Accepted[],
  at: string,
): Promise<{ readonly revision: number | undefined; readonly unchanged: number }> => {
  const titles = new Map(group.map(({ attribute, answer }) => [attribute, answer.title]));
  const bySku = new Map<string, Accepted[]>();
  for (const one of group) bySku.set(one.answer.sku, [...(bySku.get(one.answer.sku) ?? []), one]);
  const [first] = group;
  const writer = await transaction.revision(
    editPlan(
      { kind: "import", layer: first?.layer ?? "", source: "gaps", file: first?.sheet.file ?? "", at },
      [...titles].map(([attribute, column]) => ({ attribute, column })),
      "SKU",
    ),
  );
  const records = [...bySku].map(([sku, answers]) => ({
    kind: "product" as const,
    row: answers[0]?.answer.row ?? 0,
    texts: [
      sku,
      ...[...titles.keys()].map((name) => answers.find(({ attribute }) => attribute === name)?.text ?? ""),
    ],
    doubts: [],
  }));
  const fates = await writer.put(records);
  const counts = { read: records.length, added: 0, changed: 0, unchanged: 0, rejected: 0 };
  let unchanged = 0;
  fates.forEach((fate, index) => {
    if (fate.fate === "changed") counts.changed++;
    else {
      counts.unchanged++;
      unchanged += bySku.get(records[index]?.texts[0] ?? "")?.length ?? 0;
    }
  });
  return { revision: await writer.finish(counts), unchanged };
};
