import type { ChannelDefinition } from "../core/channel/definition.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";

/** Where a command has no channel to speak of. */
export function tellNoChannel(io: Io): 0 {
  io.err(
    'No channel is in use; take one into use: lexicant channels add NAME ("lexicant channels" lists them).\n',
  );
  return 0;
}

/** What a person is told of channels that came into use: how much is filled already, and what comes next. */
export function tellInUse(channels: readonly ChannelDefinition[], io: Io): void {
  for (const { channel, label, fields, categoryField } of channels) {
    const filled = fields.filter(({ suggestedFill, code }) => suggestedFill !== "" || code === categoryField);
    const asked = fields.length - filled.length;
    io.out(
      `${label} is in use: ${countText(filled.length, "field")} ${filled.length === 1 ? "has" : "have"} a fill to begin with${asked === 0 ? "" : `, ${countText(asked, "field")} ${asked === 1 ? "waits" : "wait"} for yours`}.\n` +
        `  Next: lexicant place ${channel}, then lexicant fills ${channel}\n`,
    );
  }
}
