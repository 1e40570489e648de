import { oneAct } from "../flow/one-act.js";
import { command } from "./command.js";
import { flag } from "./options/option.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { countText } from "../core/diagnostics/phrases.js";
import { decisionsTurned, turnDecisions, type TurnedDecisions } from "../flow/undo/turned-decisions.js";
import { jsonLine } from "../report/json.js";
import type { HistoryEntry } from "../store/store.js";
import type { CommandFile } from "./command-file.js";
import { refuseIdle, refuseTogether } from "./options/refuse-idle.js";
import { withWritableCatalogue } from "../flow/open-catalogue.js";

/** `lexicant undo [REVISION]`: takes back the latest import, edit or sending, or the one that is named. */
export const undo: CommandFile = command({
  args: [["[revision]", "its number in the history (the latest act)"]],
  options: {
    through: flag("--through", "undo later revisions of the same layer too"),
    alone: flag("--alone", "undo it and leave later revisions of its layer as they are"),
  },
  examples: [
    ["undo", "the latest import, edit or sending"],
    ["undo 12 --through", "revision 12, and what came into its layer since"],
  ],
  async run({ given, args, options, io }) {
    return withWritableCatalogue(options, io, async (open) => {
      const { store } = open;
      refuseTogether([
        [given.through, "--through"],
        [given.alone, "--alone"],
      ]);
      const [revision] = args;
      refuseIdle([
        [given.through && revision === undefined, "--through", "the number of a revision"],
        [given.alone && revision === undefined, "--alone", "the number of a revision"],
      ]);
      const entries = await store.history();
      const ids = chosen(entries, revision, {
        through: given.through,
        alone: given.alone,
      });
      const at = io.now().toISOString();
      const turned = decisionsTurned(entries, ids);
      let stays: readonly string[] = [];
      const undoing = await oneAct(open, async (transaction) => {
        const undone = await transaction.undo(ids, at);
        stays = await turnDecisions(open, turned);
        return undone;
      });
      if (options.json) io.out(jsonLine({ type: "undo", revision: undoing, undone: ids }));
      else if (!options.quiet)
        io.out(
          `${[...ids.map((id) => describe(entries, id)), ...turnedLines(turned), ...stays].join("\n")}\nThis is revision ${undoing}; to have ${ids.length === 1 ? "it" : "them"} back: lexicant undo ${undoing}\n`,
        );
      return 0;
    });
  },
});

function describe(entries: readonly HistoryEntry[], id: number): string {
  const entry = entries.find(({ revision }) => revision === id);
  if (entry?.kind === "undo")
    return `Undone: the undo of ${entry.undoes.join(", ")}; what that took back holds again.`;
  if (entry?.kind === "sent")
    return `Undone: that ${entry.source} was sent a build (${entry.at.slice(0, 16).replace("T", " ")}); the ledger holds what it held before.`;
  return `Undone: revision ${id}, ${entry?.file ?? ""} of ${entry?.at.slice(0, 16).replace("T", " ") ?? ""}, layer ${entry?.layer ?? ""}.`;
}

function turnedLines({ gone, back }: TurnedDecisions): readonly string[] {
  const rows = (decisions: TurnedDecisions["gone"]): number =>
    decisions.filter((one) => "term" in one).length;
  return [
    ...(rows(gone) > 0 ? [`${countText(rows(gone), "row")} of the lexicon went with it.`] : []),
    ...(rows(back) > 0 ? [`${countText(rows(back), "row")} of the lexicon came back with it.`] : []),
  ];
}

function chosen(
  entries: readonly HistoryEntry[],
  asked: string | undefined,
  { through, alone }: { readonly through: boolean; readonly alone: boolean },
): readonly number[] {
  const live = entries.filter(({ undoneBy }) => undoneBy === undefined);
  if (asked === undefined) {
    const latest = live.find(({ kind }) => kind !== "undo");
    if (latest === undefined) throw new Refusal([diagnostic("nothing-to-undo", {})]);
    // One command may have brought several files: they came together and go together.
    return live
      .filter(({ act, kind }) => act === latest.act && kind !== "undo")
      .map(({ revision }) => revision);
  }
  const entry = entries.find(({ revision }) => String(revision) === asked);
  if (entry === undefined)
    throw new Refusal([
      diagnostic("unknown-revision", { revision: asked, latest: entries[0]?.revision ?? 0 }),
    ]);
  if (entry.undoneBy !== undefined)
    throw new Refusal([diagnostic("undone-already", { revision: entry.revision, by: entry.undoneBy })]);
  if (entry.kind === "undo" || entry.kind === "sent") return [entry.revision];
  const later = live.filter(
    ({ revision, layer, kind }) => kind !== "undo" && layer === entry.layer && revision > entry.revision,
  );
  if (later.length === 0 || alone) return [entry.revision];
  const ids = later.map(({ revision }) => revision);
  if (through) return [...ids, entry.revision];
  throw new Refusal([
    diagnostic("later-revisions", { revision: entry.revision, later: ids, layer: entry.layer }),
  ]);
}
