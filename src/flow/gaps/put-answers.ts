/** Puts answers into layers: a revision for each sheet and layer. */
import { EDITS } from "../../core/catalogue/edits-layer.js";
import { editPlan } from "../one-act.js";
import type { CatalogueTransaction, DecidedTerm } from "../../store/store.js";
import type { Accepted } from "./answer-reading.js";

/** Puts answers into revisions of their own: one for each sheet and layer. */
export async function putAnswers(
  transaction: CatalogueTransaction,
  accepted: readonly Accepted[],
  at: string,
  terms: readonly { readonly sheet: string; readonly decided: DecidedTerm }[] = [],
): Promise<{ readonly revisions: readonly number[]; readonly unchanged: number }> {
  const groups = new Map<string, Accepted[]>();
  for (const one of accepted) {
    const key = `${one.sheet.file}\u0000${one.layer}`;
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  const revisions: number[] = [];
  let unchanged = 0;
  // Rows of a lexicon go into no layer, and are taken back with the sheet that brought them.
  const ofSheet = (sheet: string): readonly DecidedTerm[] =>
    terms.flatMap((term) => (term.sheet === sheet ? [term.decided] : []));
  const noted = new Set<string>();
  for (const { sheet } of terms)
    if (![...groups.values()].some(([first]) => first?.sheet.file === sheet))
      groups.set(`${sheet}\u0000${EDITS}`, []);
  for (const [key, group] of groups) {
    const [sheet = "", layer = ""] = key.split("\u0000");
    const decided = noted.has(sheet) ? [] : ofSheet(sheet);
    noted.add(sheet);
    const put = await putGroup(transaction, group, { at, sheet, layer, decided });
    if (put.revision !== undefined) revisions.push(put.revision);
    unchanged += put.unchanged;
  }
  return { revisions, unchanged };
}

async function putGroup(
  transaction: CatalogueTransaction,
  group: readonly Accepted[],
  {
    at,
    sheet,
    layer,
    decided,
  }: {
    readonly at: string;
    readonly sheet: string;
    readonly layer: string;
    readonly decided: readonly DecidedTerm[];
  },
): Promise<{ readonly revision: number | undefined; readonly unchanged: number }> {
  const titles = new Map(group.map(({ attribute, answer }) => [attribute, answer.title]));
  const bySku = new Map<string, Accepted[]>();
  for (const one of group) bySku.set(one.answer.sku, [...(bySku.get(one.answer.sku) ?? []), one]);
  const writer = await transaction.revision({
    ...editPlan(
      { kind: "import", layer, source: "gaps", file: sheet, at },
      [...titles].map(([attribute, column]) => ({ attribute, column })),
      "SKU",
    ),
    decided,
  });
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
}
