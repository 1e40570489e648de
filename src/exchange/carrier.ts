/** A file on its way to a channel. */
export interface OutgoingFile {
  /** The name under which the channel gets it. */
  readonly name: string;
  /** Where its bytes lie here. */
  readonly path: string;
  readonly bytes: number;
  /** The same for every try to send it, and for no other sending. */
  readonly key: string;
  /** What fills the marks of addresses and parts: action, purpose, version, number. */
  readonly facts: Readonly<Record<string, string>>;
}

/** What came of one try to send a file. */
export type Sending =
  /** The channel has it. */
  | { readonly kind: "taken"; readonly reference: string }
  /** The channel does not want it: another try would end as this one. */
  | { readonly kind: "refused"; readonly reason: string }
  /**
   * It did not arrive, or was not looked at. Seconds to wait are the channel's own wish; where it is settled, another try
   * ends alike until a person has mended something here.
   */
  | { readonly kind: "not sent"; readonly reason: string; readonly wait?: number; readonly isSettled?: true }
  /** It may have arrived. */
  | { readonly kind: "unclear"; readonly reason: string };

/** How far a channel is with a file. */
export type Progress =
  | { readonly kind: "reading"; readonly state: string; readonly percent: number | undefined }
  | { readonly kind: "answered"; readonly state: string }
  | { readonly kind: "thrown out"; readonly state: string; readonly because: string };

/** A file that went, as the channel knows it. */
export interface SentFile {
  readonly name: string;
  readonly reference: string;
  readonly facts: OutgoingFile["facts"];
}

/** What a channel says of a file that it looked at without effect. */
export interface TrialAnswer {
  readonly isGood: boolean;
  readonly says: string;
}

/** The way to one account of a channel. What does not come about is an {@link ExchangeFault}. */
export interface Carrier {
  /** Tries once. `told` hears how many bytes are on their way. */
  send(file: OutgoingFile, told: (bytes: number) => void): Promise<Sending>;
  /** Whether the channel has a file of this name, and by what reference. */
  find(file: OutgoingFile): Promise<string | undefined>;
  trial(file: OutgoingFile): Promise<TrialAnswer>;
  progress(file: SentFile): Promise<Progress>;
  /** Writes the channel's report on a file to a path. */
  report(file: SentFile, path: string): Promise<void>;
  /** Writes the export of live listings to a path. */
  live(path: string): Promise<void>;
  /** Writes the categories of a version to a path. */
  categories(version: string, path: string): Promise<void>;
  close(): Promise<void>;
}

/** Why an exchange did not come about; the reason names no secret. */
export class ExchangeFault extends Error {
  constructor(
    reason: string,
    /** Whether another try may succeed, and after how many seconds the channel wishes it. */
    readonly again: { readonly wait?: number } | undefined,
    /** The status of an answer over HTTP. */
    readonly status?: number,
  ) {
    super(reason);
  }
}
