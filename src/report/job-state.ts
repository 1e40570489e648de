import type { Job } from "../store/jobs.js";

/** How far a job is, in words. */
export function jobStateText({ files, accepted, refused, listings }: Job): string {
  const has = (state: Job["files"][number]["state"]): boolean => files.some((file) => file.state === state);
  if (has("sending")) return "unclear whether it arrived";
  if (has("waiting")) return "broken off; submit goes on";
  if (has("sent")) {
    const known = files.flatMap(({ state, percent }) =>
      state === "sent" && percent !== undefined ? [percent] : [],
    );
    return known.length === 0
      ? "with the channel"
      : `at work, ${Math.round(known.reduce((least, one) => Math.min(least, one)))}%`;
  }
  if (files.every(({ state }) => state === "thrown out")) return "not taken";
  if (accepted + refused < listings) return "answered in part";
  return refused === 0 ? "done" : "done, with refusals";
}
