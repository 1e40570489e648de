/** What undoing does to decision files. */
import { addAll } from "../../core/many.js";
import type { DecidedSource, DecidedTerm, Decision, HistoryEntry } from "../../store/store.js";
import { addToManifest, takeFromManifest } from "../../workspace/edit-manifest.js";
import { putSourceBack, takeSource } from "../../workspace/source-files.js";
import { writeTerms } from "../lexicon/terms-decided.js";
import type { WritableWorkspace } from "../open-catalogue.js";

/** What was decided outside of the catalogue and goes or comes back when revisions are undone. */
export interface TurnedDecisions {
  readonly gone: readonly Decision[];
  readonly back: readonly Decision[];
  /** Sources and layers that other revisions still stand on. */
  readonly sourcesInUse: ReadonlySet<string>;
  readonly layersInUse: ReadonlySet<string>;
}

const isTerm = (decision: Decision): decision is DecidedTerm => "term" in decision;

const isSource = (decision: Decision): decision is DecidedSource => "sourceFile" in decision;

/** What undoing revisions does to decision files: what they decided goes, and what an undo of them took comes back. */
export function decisionsTurned(entries: readonly HistoryEntry[], ids: readonly number[]): TurnedDecisions {
  const byId = new Map(entries.map((entry) => [entry.revision, entry]));
  const [gone, back, turnedIds]: [Decision[], Decision[], Set<number>] = [[], [], new Set()];
  const turn = (id: number, goes: boolean): void => {
    const entry = byId.get(id);
    if (entry === undefined) return;
    turnedIds.add(id);
    if (entry.kind !== "undo") addAll(goes ? gone : back, entry.decided);
    else for (const one of entry.undoes) turn(one, !goes);
  };
  for (const id of ids) turn(id, true);
  const others = entries.filter(
    ({ revision, kind, undoneBy }) =>
      undoneBy === undefined && !turnedIds.has(revision) && (kind === "import" || kind === "edit"),
  );
  return {
    gone,
    back,
    sourcesInUse: new Set(others.map(({ source }) => source)),
    layersInUse: new Set(others.map(({ layer }) => layer)),
  };
}

/** Takes decisions out of their files, and writes others back; what a person changed since stays. Says what became of each. */
export async function turnDecisions(
  open: WritableWorkspace,
  turned: TurnedDecisions,
): Promise<readonly string[]> {
  const { gone, back } = turned;
  const channels = new Set([...gone, ...back].filter(isTerm).map(({ channel }) => channel));
  for (const channel of channels) {
    const own = (terms: readonly Decision[]) =>
      terms.filter(isTerm).filter((term) => term.channel === channel);
    await writeTerms(open, channel, own(back), own(gone));
  }
  const told: string[] = [];
  for (const one of gone.filter(isSource)) told.push(await takeDecided(open, one, turned));
  for (const one of back.filter(isSource)) told.push(await giveBack(open, one));
  return told;
}

async function takeDecided(
  { workspace, landing }: WritableWorkspace,
  { sourceFile, text, layer, forChannels = [] }: DecidedSource,
  { sourcesInUse, layersInUse }: TurnedDecisions,
): Promise<string> {
  const file = `sources/${sourceFile}.yaml`;
  if (sourcesInUse.has(sourceFile)) return `${file} stays: later imports were read by it.`;
  if (!(await takeSource(landing, workspace, sourceFile, text)))
    return `${file} stays: it was changed since, or is gone already.`;
  for (const one of forChannels)
    if (!layersInUse.has(one.layer)) await takeFromManifest(landing, workspace, "layers", one.layer);
  if (layer === undefined || layersInUse.has(layer)) return `${file}, which came with it, is gone too.`;
  await takeFromManifest(landing, workspace, "layers", layer);
  return `${file} and the layer ${layer}, which came with it, are gone too.`;
}

async function giveBack(
  { workspace, landing }: WritableWorkspace,
  { sourceFile, text, layer, forChannels = [] }: DecidedSource,
): Promise<string> {
  await putSourceBack(landing, workspace, sourceFile, text);
  if (layer !== undefined) await addToManifest(landing, workspace, "layers", layer);
  for (const one of forChannels) await addToManifest(landing, workspace, "layers", one);
  return `sources/${sourceFile}.yaml came back with it.`;
}
