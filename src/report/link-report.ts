import { countText } from "../core/diagnostics/phrases.js";
import type { LinkTally } from "../flow/check/check-links.js";
import type { Io } from "../io/io.js";
import { causeLines } from "./findings.js";
import { jsonLine } from "./json.js";
import { styleFor } from "./style.js";

/** How many web addresses a channel's listings show, and what is wrong with them. */
export function linkLines(
  { channel: { setup }, causes, shown, broken }: LinkTally,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const { label, version } = setup.definition;
  const found =
    broken === 0
      ? style.good("all as the channel wants them")
      : `${broken.toLocaleString("en")} not as the channel wants them`;
  return [
    `${style.bold(`${label} ${version}`)}: ${countText(shown, "web address", "web addresses")} shown, ${found}`,
    ...causeLines(causes.causes(), io),
  ];
}

/** What came of addresses, for programs. */
export const linkJson = ({ channel: { setup }, shown, broken }: LinkTally): string =>
  jsonLine({ type: "links", channel: setup.channel, addresses: shown, broken });
