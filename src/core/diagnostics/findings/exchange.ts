import { correct, correctIt } from "../act.js";
import { byField, listingFinding, nothing, plainFinding, type FieldFact } from "../finding.js";
import { quote } from "../phrases.js";

/** What goes to channels and comes back from them. */
export const exchange = {
  "refused-before": listingFinding<{ readonly at: string; readonly message: string }>({
    says: ({ at, message }) =>
      `the channel refused just this on ${at.slice(0, 10)}${message === "" ? "" : `: ${quote(message)}`}; nothing of it has changed since`,
    ofMany: () => "the channel refused just this before, and nothing of it has changed since",
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "known-refusal": listingFinding<
    FieldFact & {
      readonly contains: string;
      readonly means: string;
      readonly act: string;
      readonly file: string;
    }
  >({
    says: ({ label, contains, means, act, file }) =>
      `${label} holds ${quote(contains)}, for which the channel has refused others (${file})${means === "" ? "" : `: ${means}`}${act === "" ? "; change it" : `; ${act}`}`,
    ofMany: ({ label, contains, means, act, file }) =>
      `${label} holds ${quote(contains)}, for which the channel has refused others (${file})${means === "" ? "" : `: ${means}`}${act === "" ? "; change it" : `; ${act}`}`,
    apart: ({ contains }) => contains,
    act: ({ act }, where) =>
      correct(act === "" ? `change ${where.field}, as the channel wants it` : act)(undefined, where),
    asks: nothing,
  }),
  "sent-already": plainFinding<{ readonly job: number; readonly channel: string; readonly at: string }>(
    ({ job, channel, at }) =>
      `just these files went to ${channel} already, as job ${job} of ${at} UTC; see "lexicant jobs ${channel}", or build again. Has the channel lost them? lexicant submit ${channel} --repeat`,
  ),
  "built-file-changed": plainFinding<{ readonly path: string }>(
    ({ path }) =>
      `${quote(path)} was changed after it was built: what is known of its rows would not be what the channel gets; build again, or send it by hand`,
  ),
  "job-file-changed": plainFinding<{ readonly file: string; readonly job: number }>(
    ({ file, job }) =>
      `${quote(file)} is not what job ${job} was to send: somebody changed or removed what was kept of it; nothing more was sent. Build again and submit that`,
  ),
  "exchange-failed": plainFinding<{
    readonly channel: string;
    readonly doing: string;
    readonly reason: string;
  }>(({ channel, doing, reason }) => `${doing} did not come about with ${channel}: ${reason}`),
  "exchange-busy": plainFinding<{ readonly channel: string }>(
    ({ channel }) =>
      `another Lexicant is at work with ${channel} already; nothing was done. Try again when it has ended`,
  ),
  "no-job": plainFinding<{ readonly channel: string; readonly job: string }>(({ channel, job }) =>
    job === ""
      ? `nothing was sent to ${channel} of which an answer is awaited; see "lexicant jobs ${channel}"`
      : `there is no job ${job} of ${channel}, or what it held is known no more; see "lexicant jobs ${channel}"`,
  ),
  "not-our-report": plainFinding<{ readonly rows: number; readonly job: number; readonly first: string }>(
    ({ rows, job, first }) =>
      `none of the report's ${rows.toLocaleString("en")} rows is of job ${job} (the first speaks of ${quote(first)}); nothing was noted. Is it another channel's, or another account's?`,
  ),
  "not-told": plainFinding<{ readonly how: string; readonly occasion: string; readonly reason: string }>(
    ({ how, occasion, reason }) => `nobody was told of ${occasion} by ${how}: ${reason}`,
  ),
  "feed-kept": plainFinding<{ readonly channel: string; readonly reason: string }>(
    ({ channel, reason }) => `the feed of ${channel} stays as it was: ${reason}`,
  ),
  "too-much-changes": plainFinding<{
    readonly channel: string;
    readonly what: string;
    readonly count: number;
    readonly of: number;
    readonly limit: number;
    readonly key: string;
  }>(
    ({ channel, what, count, of, limit, key }, files) =>
      `${count.toLocaleString("en")} of the ${of.toLocaleString("en")} listings of ${channel} ${what}, more than the ${limit}% of ${key} in ${files.policyOf(channel)}; nothing was sent. If that is right: lexicant sync ${channel} --yes`,
  ),
} as const;
