import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { compareVersions } from "../../flow/learn/compare.js";
import { withCatalogue } from "../../flow/open-catalogue.js";
import type { Io } from "../../io/io.js";
import type { ExitCode } from "../../io/exit-code.js";
import { comparedJson, comparedLines } from "../../report/compare-report.js";
import type { CommonOptions } from "../command-file.js";

/** `lexicant channels compare NAME OLD NEW`: what a new version changes, and what that does to the shop. */
export async function compareCommand(
  channel: string,
  versions: readonly string[],
  options: CommonOptions,
  io: Io,
): Promise<ExitCode> {
  const [old, next, ...more] = versions;
  if (old === undefined || next === undefined || more.length > 0)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `"lexicant channels compare ${channel} OLD NEW" wants two versions`,
      }),
    ]);
  return withCatalogue(options.workspace, io, async (open) => {
    const compared = await compareVersions(open, channel, [old, next]);
    if (options.json) for (const line of comparedJson(compared, channel)) io.out(line);
    else io.out(`${comparedLines(compared, channel, io).join("\n")}\n`);
    return 0;
  });
}
