/** What answers will do, before they land: the channels run over what will be. */
import { isError, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { isHeld, type Listing } from "../../core/listing/listing.js";
import type { CatalogueTransaction, Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { provenanceIn } from "../run-channels.js";
import type { AcceptedTerm, AnswerReading } from "./answer-reading.js";
import { standingsOf, type Standings } from "./standings.js";

/** The products as they will be: with the answers, and with the new rows of the lexicons. */
export async function standingsAfter(
  transaction: CatalogueTransaction,
  store: Store,
  channels: readonly WorkspaceChannel[],
  { terms, skus }: AnswerReading,
  helped: ReadonlySet<string>,
): Promise<Standings> {
  // An answer may bring an attribute that the catalogue did not have: plans are made anew.
  const attributes = await store.attributes();
  const after = standingsOf(
    channels.map((channel) => withTerms(channel, attributes, terms)),
    await provenanceIn(store),
  );
  const seen = new Set<string>();
  for await (const families of transaction.touchedFamilies())
    for (const family of families) {
      for (const { sku } of family.members) seen.add(sku);
      await after.add(family);
    }
  for (const sku of [...skus, ...helped]) {
    const family = seen.has(sku) ? undefined : await store.familyOf(sku);
    if (family === undefined) continue;
    for (const member of family.members) seen.add(member.sku);
    await after.add(family);
  }
  return after.standings;
}

/** Products that no sheet speaks of and that lack one of the answered terms: looked at beside those that they do. */
export async function addHelped(
  store: Store,
  channels: readonly WorkspaceChannel[],
  before: ReturnType<typeof standingsOf>,
  { terms, skus }: AnswerReading,
): Promise<ReadonlySet<string>> {
  const helped = new Set<string>();
  if (terms.length === 0) return helped;
  const wanted = new Set(terms.map(({ channel, field, term }) => `${channel}\u0000${field}\u0000${term}`));
  const provenance = await provenanceIn(store);
  const isWanted = (channel: string, problem: Listing["problems"][number]): boolean =>
    "written" in problem && wanted.has(`${channel}\u0000${problem.field.field.code}\u0000${problem.written}`);
  for await (const families of store.families()) {
    const batch = standingsOf(channels, provenance);
    for (const family of families) {
      if (family.members.some(({ sku }) => skus.has(sku)))
        for (const { sku } of family.members) helped.add(sku);
      else await batch.add(family);
    }
    for (const [channel, standings] of batch.standings)
      for (const [sku, { listing }] of standings)
        if (listing?.problems.some((problem) => isWanted(channel, problem)) === true) helped.add(sku);
    for (const family of families)
      if (
        family.members.some(({ sku }) => helped.has(sku)) &&
        !family.members.some(({ sku }) => skus.has(sku))
      )
        await before.add(family);
  }
  for (const sku of skus) helped.delete(sku);
  return helped;
}

function withTerms(
  { setup, ...channel }: WorkspaceChannel,
  attributes: Awaited<ReturnType<Store["attributes"]>>,
  terms: readonly AcceptedTerm[],
): WorkspaceChannel {
  const own = terms.filter(({ channel }) => channel === setup.channel);
  const { lexicon } = setup;
  return {
    ...channel,
    setup: {
      ...setup,
      attributes: {
        ...setup.attributes,
        slot: (name) => setup.attributes.slot(name) ?? attributes.slot(name),
      },
      lexicon: {
        ...lexicon,
        find: (field, ourCategory, term) =>
          own.find((one) => one.field === field && one.term === term)?.value ??
          lexicon.find(field, ourCategory, term),
      },
    },
  };
}

/** An answer that was taken and is not enough: what the channel still says of the field it was for. */
export function tellStillWrong(
  { accepted }: AnswerReading,
  before: Standings,
  after: Standings,
  tell: (finding: Diagnostic) => void,
): void {
  for (const { answer } of accepted) {
    const { target } = answer;
    const askers =
      target.kind === "attribute" ? answer.askers : [{ channel: target.channel, field: target.field }];
    for (const { channel, field } of askers) {
      const now = after.get(channel)?.get(answer.sku)?.outcome;
      if (now === undefined || before.get(channel)?.get(answer.sku) === undefined) continue;
      for (const finding of now.findings)
        if (isError(finding) && finding.field === field) tell({ ...finding, place: answer.place });
    }
  }
}

/** Of the products in the sheets: those that were held and are ready, and those still held. */
export function progress(
  before: Standings extends ReadonlyMap<string, infer M> ? M | undefined : never,
  after: Standings extends ReadonlyMap<string, infer M> ? M | undefined : never,
  skus: ReadonlySet<string>,
  helped: ReadonlySet<string>,
): { readonly becameReady: number; readonly stillHeld: number } {
  let [becameReady, stillHeld] = [0, 0];
  for (const sku of [...skus, ...helped]) {
    const was = before?.get(sku)?.outcome;
    const now = after?.get(sku)?.outcome;
    if (was === undefined || now === undefined) continue;
    if (isHeld(was) && now.kind === "ready") becameReady++;
    if (isHeld(now)) stillHeld++;
  }
  return { becameReady, stillHeld };
}
