/**
 * A sending and an answer are revisions of the history: these wrap the ledger and the jobs of a channel so that what they
 * add is known to whoever reads the history in the same command.
 */
import type { ChannelJobs } from "../jobs.js";
import type { ChannelLedger } from "../ledger.js";
import { bareRevision, type Revision } from "./revisions.js";

/** Notes what was sent to a channel at a time as a revision, where one came of it. */
export type NoteSent = <Counts extends { readonly revision?: number | undefined }>(
  counts: Counts,
  at: string,
) => Counts;

/** Notes sendings of one channel. */
export const notingSent =
  (revisions: Map<number, Revision>, channel: string): NoteSent =>
  (counts, at) => {
    const { revision: id } = counts;
    if (id !== undefined) revisions.set(id, bareRevision({ id, kind: "sent", at, source: channel }));
    return counts;
  };

/** A ledger whose sendings are noted. */
export const notedLedger = (ledger: ChannelLedger, note: NoteSent): ChannelLedger => ({
  ...ledger,
  adopt: async (at, ids) => note(await ledger.adopt(at, ids), at),
  markSent: async (wish) => note(await ledger.markSent(wish), wish.at),
});

/** Jobs whose answers are noted. */
export const notedJobs = (jobs: ChannelJobs, note: NoteSent): ChannelJobs => ({
  ...jobs,
  answer: async (job, at, outcomes) => note(await jobs.answer(job, at, outcomes), at),
});
