import type { DecidedTerm, HistoryEntry } from "../../store/store.js";
import type { Workspace } from "../../workspace/workspace.js";
import { writeTerms } from "./terms-decided.js";

/** Rows of lexicons that go or come back when revisions are undone. */
export interface TurnedTerms {
  readonly gone: readonly DecidedTerm[];
  readonly back: readonly DecidedTerm[];
}

/** What undoing revisions does to the lexicons: what they decided goes, and what an undo of them took comes back. */
export const termsTurned = (entries: readonly HistoryEntry[], ids: readonly number[]): TurnedTerms => {
  const entryOf = (id: number): HistoryEntry | undefined => entries.find(({ revision }) => revision === id);
  const turned = (id: number, goes: boolean): TurnedTerms => {
    const entry = entryOf(id);
    if (entry === undefined) return { gone: [], back: [] };
    if (entry.kind !== "undo")
      return goes ? { gone: entry.decided, back: [] } : { gone: [], back: entry.decided };
    const inner = entry.undoes.map((one) => turned(one, !goes));
    return { gone: inner.flatMap(({ gone }) => gone), back: inner.flatMap(({ back }) => back) };
  };
  const all = ids.map((id) => turned(id, true));
  return { gone: all.flatMap(({ gone }) => gone), back: all.flatMap(({ back }) => back) };
};

/** Takes rows out of the lexicons, and writes others back; one that a person changed since stays. */
export const turnTerms = async (workspace: Workspace, { gone, back }: TurnedTerms): Promise<void> => {
  for (const channel of new Set([...gone, ...back].map((term) => term.channel))) {
    const own = (terms: readonly DecidedTerm[]) => terms.filter((term) => term.channel === channel);
    await writeTerms(workspace, channel, own(back), own(gone));
  }
};
