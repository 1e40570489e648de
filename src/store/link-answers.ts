import type Database from "better-sqlite3";

/** What web addresses answered, as texts, kept between runs. */
export interface LinkAnswers {
  /** The answer, if it was given at that time (ISO 8601) or later. */
  get(url: string, notBefore: string): string | undefined;
  /** Keeps answers of one time, all of them or none. */
  keep(answers: ReadonlyMap<string, string>, at: string): void;
}

export const linkAnswers = (database: Database.Database): LinkAnswers => {
  const find = database
    .prepare<[string, string], string>("SELECT answer FROM link_answer WHERE url = ? AND at >= ?")
    .pluck();
  const put = database.prepare<[string, string, string]>(
    "INSERT INTO link_answer (url, at, answer) VALUES (?, ?, ?) ON CONFLICT (url) DO UPDATE SET at = excluded.at, answer = excluded.answer",
  );
  const keepAll = database.transaction((answers: ReadonlyMap<string, string>, at: string) => {
    for (const [url, answer] of answers) put.run(url, at, answer);
  });
  return {
    get: (url, notBefore) => find.get(url, notBefore),
    keep(answers, at) {
      keepAll.immediate(answers, at);
    },
  };
};
