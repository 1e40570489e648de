/** What a person's files are called in sentences. Core knows what is decided there, and not where that is. */
export interface FileNames {
  /** The workspace's own settings. */
  readonly manifest: string;
  /** A channel's settings, whichever channel is spoken of. */
  readonly policy: string;
  policyOf(channel: string): string;
  fillsOf(channel: string): string;
  lexiconOf(channel: string): string;
  source(name: string): string;
  /** One of the user's own tables. */
  table(name: string): string;
  /** The table of exchange rates. */
  readonly rates: string;
}
