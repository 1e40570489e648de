import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";

/** A channel's name is a folder's, too: small letters, digits and dashes. */
export function refuseWrongName(channel: string): void {
  if (/^[a-z0-9][a-z0-9-]{0,59}$/.test(channel)) return;
  throw new Refusal([
    diagnostic("unknown-option", {
      reason: `"${channel}" is no name for a channel: small letters, digits and dashes`,
    }),
  ]);
}
