/** What web addresses answered, as texts, kept between runs. */
export interface LinkAnswers {
  /** The answers that were given at a time (ISO 8601) or later, by address. */
  of(urls: readonly string[], notBefore: string): Promise<ReadonlyMap<string, string>>;
  /** Keeps answers of one time, all of them or none. */
  keep(answers: ReadonlyMap<string, string>, at: string): Promise<void>;
}
