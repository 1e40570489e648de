import type Database from "better-sqlite3";
import type { LinkAnswers } from "../link-answers.js";

/** What web addresses answered, kept. */
export function linkAnswers(database: Database.Database): LinkAnswers {
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
    async of(urls, notBefore) {
      const found = new Map<string, string>();
      for (const url of urls) {
        const answer = find.get(url, notBefore);
        if (answer !== undefined) found.set(url, answer);
      }
      return found;
    },
    async keep(answers, at) {
      keepAll.immediate(answers, at);
    },
  };
}
