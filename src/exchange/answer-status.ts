/**
 * What a channel's HTTP status means for whoever asked (RFC 9110, section 15). It is judged here and nowhere else, so that a
 * sending, a question and a trial draw their own conclusions from one and the same reading.
 */
export type StatusMeaning =
  /** 2xx: it was done. */
  | "done"
  /** 3xx: to be asked elsewhere, which we never follow. */
  | "elsewhere"
  /** 401, 403: it does not know who asks. It says nothing of what was asked. */
  | "not accepted"
  /** 408, 429, 503: not now. */
  | "later"
  /** Other 5xx: it failed, whatever it had done before. */
  | "failed"
  /** Other 4xx: what was asked is wrong, or is not there. */
  | "refused";

/** What a status means. */
export function meaningOf(status: number): StatusMeaning {
  if (status >= 200 && status < 300) return "done";
  if (status >= 300 && status < 400) return "elsewhere";
  if (status === 401 || status === 403) return "not accepted";
  if (status === 408 || status === 429 || status === 503) return "later";
  return status >= 500 ? "failed" : "refused";
}

/** What a status says that is no success, with what the channel said beside it. */
export function statusReason(status: number, said: string): string {
  const words = said === "" ? "" : `: ${said}`;
  return meaningOf(status) === "not accepted"
    ? `the channel does not accept the token (${status})${words}`
    : `the channel answers ${status}${words}`;
}
