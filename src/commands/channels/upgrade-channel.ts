/** `channels upgrade`: a new version in the place of the old; the work is `flow/learn/upgrade.ts`. */
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { downgrade, upgrade } from "../../flow/learn/upgrade.js";
import { withCatalogueToChange } from "../../flow/open-catalogue.js";
import type { Io } from "../../io/io.js";
import type { ExitCode } from "../../io/exit-code.js";
import { downgradedJson, downgradedLine, upgradedJson, upgradedLines } from "../../report/compare-report.js";
import type { CommonOptions } from "../command-file.js";

interface UpgradeOptions {
  readonly back: boolean;
  readonly yes: boolean;
  readonly dryRun: boolean;
}

/** `lexicant channels upgrade NAME NEW`: carries our decisions over to a new version; `--back` takes it back. */
export async function upgradeCommand(
  channel: string,
  versions: readonly string[],
  { back, yes, dryRun }: UpgradeOptions,
  options: CommonOptions,
  io: Io,
): Promise<ExitCode> {
  const [version] = versions;
  if (back ? versions.length > 0 : version === undefined || versions.length > 1)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: back
          ? `"lexicant channels upgrade ${channel} --back" goes back to the version before, and wants no other`
          : `"lexicant channels upgrade ${channel} NEW" wants the version that comes`,
      }),
    ]);
  return withCatalogueToChange(dryRun)(options, io, async (open) => {
    if (back || version === undefined) {
      const done = await downgrade(open, channel, yes);
      if (!dryRun) await open.landing.land();
      if (options.json) io.out(downgradedJson(done, channel));
      else if (!options.quiet) io.out(downgradedLine(done, channel));
      return 0;
    }
    const done = await upgrade(open, channel, version);
    if (!dryRun) await open.landing.land();
    if (options.json) io.out(upgradedJson(done, channel, dryRun));
    else if (!options.quiet) io.out(`${upgradedLines(done, channel, dryRun, io).join("\n")}\n`);
    return 0;
  });
}
