/** Jobs: what was sent to channels and how far each file is. The interface that any engine serves. */
import type { BuildKind, LedgerEntry } from "./ledger.js";

/**
 * How far one file of a job is: it waits; it is being sent, and nobody knows yet whether it arrived; the channel has it;
 * the channel has said what became of its rows; it took nothing of it.
 */
export type FileState = "waiting" | "sending" | "sent" | "answered" | "thrown out";

/** One file of a job. */
export interface JobFile {
  readonly position: number;
  /** The name under which the channel gets it. */
  readonly name: string;
  readonly bytes: number;
  readonly sha256: string;
  readonly state: FileState;
  /** What tells a repeated sending from a new one. */
  readonly key: string;
  /** The channel's reference; "" as long as it has given none. */
  readonly reference: string;
  /** ISO 8601: when its state last changed. */
  readonly at: string;
  readonly percent: number | undefined;
  /** Why it was thrown out, or what a person should know; "". */
  readonly because: string;
}

/** One sending of a build. */
export interface Job {
  readonly number: number;
  readonly channel: string;
  readonly kind: BuildKind;
  readonly purpose: string;
  /** The build whose files they are. */
  readonly build: number;
  /** Whether the file is all that the channel then has. */
  readonly whole: boolean;
  /** ISO 8601 */
  readonly at: string;
  readonly files: readonly JobFile[];
  readonly listings: number;
  readonly accepted: number;
  readonly refused: number;
}

/** So many jobs of a channel keep what they held: answers to earlier ones come too late to be told apart. */
export const KEPT_JOBS = 5;

/** A job that begins. */
export type NewJob = Pick<Job, "kind" | "purpose" | "build" | "whole" | "at"> & {
  readonly files: readonly Pick<JobFile, "name" | "bytes" | "sha256" | "key">[];
  /** The SKUs that the files hold, where they are a part of the build; undefined: all of it. */
  readonly skus: readonly string[] | undefined;
};

/** What is known anew of a file. */
export type FileChange = Partial<Pick<JobFile, "state" | "reference" | "percent" | "because">> & {
  readonly at: string;
};

/** What a channel said of one of our rows. */
export interface RowOutcome {
  readonly sku: string;
  readonly isAccepted: boolean;
  /** The id that the channel gave; "" for none. */
  readonly id: string;
  readonly code: string;
  readonly message: string;
  /** The channel's field that it speaks of, by code; "". */
  readonly field: string;
}

/** What an answer changed. */
export interface AnswerCounts {
  readonly accepted: number;
  readonly refused: number;
  /** Rows that had been accepted, and are refused now. */
  readonly takenBack: number;
  /** The act's number in the history; undefined where nothing changed. */
  readonly revision: number | undefined;
}

/** Where a listing stands with a channel. A listing that the ledger has and that none of these speaks of was told by hand. */
export type StandingState = "sent" | "live" | "refused" | "withdrawn";

/** How a listing's last sending went. */
export interface Standing {
  readonly sku: string;
  readonly state: StandingState;
  readonly job: number;
  /** ISO 8601 */
  readonly at: string;
  readonly id: string;
  readonly code: string;
  readonly message: string;
  readonly field: string;
  /** What was refused, as it was sent. */
  readonly refused: LedgerEntry["listing"] | undefined;
}

/** What was sent to one channel, and what it said. */
export interface ChannelJobs {
  /** Latest first. */
  list(): Promise<readonly Job[]>;
  /** A build is about to be sent: what it holds is kept with the job. Holds with the act that it is part of. */
  open(job: NewJob): Promise<number>;
  /** Holds at once. */
  change(job: number, position: number, change: FileChange): Promise<void>;
  /** What a job holds, while that is known. */
  entries(job: number): AsyncGenerator<readonly LedgerEntry[]>;
  /** What the channel accepted is what it has now; what it refused changes nothing there. Part of an act. */
  answer(job: number, at: string, outcomes: readonly RowOutcome[]): Promise<AnswerCounts>;
  /** Rows of a job that the channel refused, in order. */
  refused(job: number): AsyncGenerator<readonly RowOutcome[]>;
  /** SKUs of a job that no answer spoke of, so many at most. */
  unanswered(job: number, limit: number): Promise<readonly string[]>;
  standings(skus: readonly string[]): Promise<ReadonlyMap<string, Standing>>;
  /** Every SKU that stands so, in order. */
  standing(state: StandingState): AsyncGenerator<readonly Standing[]>;
  /** Whether any SKU stands so. */
  has(state: StandingState): Promise<boolean>;
}
