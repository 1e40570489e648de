import { findingLines } from "./findings.js";
import type { Io } from "../io/io.js";
import type { WorkspaceChannel } from "../workspace/channel-files.js";

/** What a person should know of the channels' decision files, beside what a command answers. */
export function tellAdvice(channels: readonly WorkspaceChannel[], io: Io): void {
  for (const finding of channels.flatMap(({ advice }) => advice))
    io.err(`${findingLines(finding, io).join("\n")}\n`);
}
