import { findingLines } from "./findings.js";
import type { Diagnostic } from "../core/diagnostics/diagnostic.js";
import type { Io } from "../io/io.js";
import type { WorkspaceChannel } from "../workspace/channel-files.js";

/** So many of one kind on one channel are told one by one. */
const SHOWN = 4;

/** What a person should know of the channels' decision files, beside what a command answers; who wants it quiet hears errors alone. */
export function tellAdvice(
  channels: readonly Pick<WorkspaceChannel, "advice">[],
  { quiet }: { readonly quiet: boolean },
  io: Io,
): void {
  const kinds = new Map<string, Diagnostic[]>();
  for (const finding of channels.flatMap(({ advice }) => advice)) {
    if (quiet && finding.severity !== "error") continue;
    const kind = `${finding.code} ${finding.channel ?? ""}`;
    const own = kinds.get(kind);
    if (own === undefined) kinds.set(kind, [finding]);
    else own.push(finding);
  }
  for (const findings of kinds.values()) {
    for (const finding of findings.slice(0, SHOWN)) io.err(`${findingLines(finding, io).join("\n")}\n`);
    const more = findings.length - SHOWN;
    if (more > 0) io.err(`         and ${more} more of this kind (all with --json)\n`);
  }
}
