/** `channels learn`: options and answers; what is learned is `flow/learn`'s. */
import { isAbsolute, join } from "node:path";
import type { Io } from "../../io/io.js";
import type { ExitCode } from "../../io/exit-code.js";
import { knownTerms } from "../../flow/learn/known-terms.js";
import { learn } from "../../flow/learn/learn.js";
import { fetchedTree } from "../../flow/learn/fetch-tree.js";
import { reviewWorkbook } from "../../flow/learn/review-file.js";
import { surroundingsOf, withCatalogueToChange } from "../../flow/open-catalogue.js";
import { learnedJson, learnedLines, reviewLines } from "../../report/learned-report.js";
import type { CommonOptions } from "../command-file.js";
import { refuseWrongName } from "./wrong-name.js";

/** What `channels learn` is given beside names and papers. */
export interface LearnOptions {
  readonly as?: string | undefined;
  readonly review?: string | undefined;
  readonly sheet?: string | undefined;
  readonly label?: string | undefined;
  readonly language?: readonly string[] | undefined;
  readonly currency?: readonly string[] | undefined;
  readonly country?: readonly string[] | undefined;
  readonly fetch?: string | undefined;
  readonly yes: boolean;
  readonly dryRun: boolean;
}

/** `lexicant channels learn NAME FILE...`: makes a definition of what a channel hands out. */
export async function learnCommand(
  channel: string,
  files: readonly string[],
  given: LearnOptions,
  options: CommonOptions,
  io: Io,
): Promise<ExitCode> {
  refuseWrongName(channel);
  const isOwnReview = given.review !== undefined && given.review !== "";
  // Looking at the guesses again changes nothing.
  const isTrial =
    given.dryRun || (files.length === 0 && given.fetch === undefined && given.review !== undefined);
  return withCatalogueToChange(isTrial && !isOwnReview)(
    options,
    io,
    async ({ workspace, store, landing }) => {
      const { manifest, root } = workspace;
      const fetched =
        given.fetch === undefined
          ? undefined
          : await fetchedTree(workspace, store, channel, given.fetch, io, options.quiet || options.json);
      try {
        const learned = await learn(
          root,
          {
            channel,
            files: fetched === undefined ? files : [...files, fetched.path],
            cwd: io.cwd,
            as: given.as,
            sheet: given.sheet,
            label: given.label,
            languages: given.language,
            currencies: given.currency,
            shop: { language: manifest.language, currency: manifest.currency },
            countries: given.country ?? [],
            mayChange: given.yes || isTrial,
            attributes: (await store.attributes()).names,
            terms: await knownTerms(store),
          },
          surroundingsOf(io, workspace),
          landing,
        );
        if (isOwnReview) {
          const name = given.review ?? "";
          const path = isAbsolute(name) ? name : join(io.cwd, name);
          const book = await reviewWorkbook(learned.rows);
          await landing.edit(path, () => Buffer.from(book));
        }
        if (!isTrial || isOwnReview) await landing.land();
        if (options.json) for (const line of learnedJson(learned, isTrial)) io.out(line);
        else if (given.review === "") io.out(`${reviewLines(learned.rows, io).join("\n")}\n`);
        else if (isOwnReview && isTrial)
          io.out(
            `${learned.rows.length} guesses written to ${given.review}, open questions first. Write into the last column what is wrong ("-" takes a guess away), then: lexicant channels learn ${channel} ${given.review}\n`,
          );
        else if (!options.quiet) io.out(`${learnedLines(learned, isTrial, io).join("\n")}\n`);
        return 0;
      } finally {
        await fetched?.remove();
      }
    },
  );
}
