/** What a check found, for people and programs. */
import { actText } from "../workspace/wording.js";
import { actFor } from "../core/diagnostics/entry.js";
import { heading } from "../workspace/wording.js";
import { causeTable } from "./cause-table.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "./json.js";
import { styleFor } from "./style.js";
import { wrapText } from "./text-width.js";
import type { ChannelCounts } from "../flow/channel-counts.js";
import type { CheckedCatalogue, CheckedChannel } from "../flow/check/check-catalogue.js";
import type { Narrowing } from "../flow/check/narrowing.js";

const CAUSES_SHOWN = 10;
/** Of each channel, where several are looked at. */
const CAUSES_OF_SEVERAL = 5;

interface ShownCheck extends Narrowing {
  readonly all: boolean;
}

/** What a check found, for people: channel by channel, then what stands between the catalogue's own products. */
export function checkLines(checked: CheckedCatalogue, shown: ShownCheck, io: Io): readonly string[] {
  const style = styleFor(io);
  const most = checked.channels.length > 1 ? CAUSES_OF_SEVERAL : CAUSES_SHOWN;
  const limit = shown.all ? Infinity : most;
  const catalogue = causeTable(checked.catalogue.causes(), io, limit);
  return [
    ...checked.channels.flatMap((one, index) => [
      ...(index === 0 ? [] : [""]),
      ...channelLines(one, shown, limit, io),
    ]),
    ...(catalogue.length === 0
      ? []
      : ["", style.bold("The catalogue itself, on whatever channel"), ...catalogue]),
  ];
}

/** Our own decisions, briefly: nothing is wrong with these. */
const leftOutLines = ({ leftOutCauses }: ChannelCounts, io: Io): readonly string[] =>
  leftOutCauses.causes().flatMap(({ first, products }) => {
    const [head = "", ...more] = wrapText(
      `${countText(products, "product")}: ${heading(first, products)}`,
      Math.max(40, io.columns - 10),
    );
    return [`${styleFor(io).dim("left out")}  ${head}`, ...more.map((line) => `          ${line}`)];
  });

function channelLines(
  { channel: { setup }, counts }: CheckedChannel,
  shown: ShownCheck,
  limit: number,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const { ready, held, leftOut, silenced } = counts;
  const title = style.bold(`${setup.definition.label} ${setup.definition.version}`);
  if (ready + held + leftOut === 0)
    return [
      shown.placedIn === undefined
        ? `${title}: the catalogue is empty; fill it with "lexicant import FILE".`
        : `${title}: no product stands in "${shown.placedIn}".`,
    ];
  const isNarrowed = shown.field !== undefined || shown.code !== undefined;
  const causes = counts.causes.causes();
  return [
    `${title}: ${style.good(`${ready.toLocaleString("en")} ready`)}, ${held.toLocaleString("en")} held, ${leftOut.toLocaleString("en")} left out`,
    ...causeTable(causes, io, limit),
    ...(isNarrowed ? [] : leftOutLines(counts, io)),
    ...(silenced === 0
      ? []
      : [
          style.dim(
            `${countText(silenced, "finding")} silenced by channels/${setup.channel}/channel.yaml (silence)`,
          ),
        ]),
    ...(isNarrowed && causes.length === 0
      ? ["Nothing of that kind is found."]
      : nextLines(setup.channel, counts, io)),
  ];
}

/** The one thing to do next. */
function nextLines(channel: string, { ready, held, causes }: ChannelCounts, io: Io): readonly string[] {
  if (held === 0) return [`Nothing is held. Next: lexicant build ${channel}`];
  const best = [...causes.causes()].sort((a, b) => b.alone - a.alone)[0];
  const first =
    best === undefined || best.alone === 0
      ? ""
      : `${countText(best.alone, "product")} ${best.alone === 1 ? "becomes" : "become"} ready by one thing: ${actText(actFor(best.first))}. `;
  const sheet = `All that is missing in one sheet: lexicant gaps ${channel}`;
  const file =
    ready === 0
      ? ""
      : `. The ${countText(ready, "listing")} that ${ready === 1 ? "is" : "are"} ready: lexicant build ${channel}`;
  return wrapText(first + sheet + file, io.columns);
}

/** The last lines of `--json`: the catalogue, then for each channel its causes and its counts. */
export function checkSummaries({ channels, catalogue, products }: CheckedCatalogue): readonly string[] {
  return [
    jsonLine({ type: "catalogue", products, codes: Object.fromEntries(catalogue.byCode()) }),
    ...channels.flatMap(({ channel: { setup }, counts }) => {
      const { ready, held, leftOut, silenced, causes } = counts;
      return [
        ...causes.causes().map(({ first, products: touched, alone, categories, examples }) =>
          jsonLine({
            type: "cause",
            channel: setup.channel,
            severity: first.severity,
            code: first.code,
            field: first.field,
            message: heading(first, touched),
            products: touched,
            alone,
            categories,
            act: first.severity === "error" ? actFor(first) : undefined,
            examples: examples.map(({ product }) => product),
          }),
        ),
        jsonLine({
          type: "checked-channel",
          channel: setup.channel,
          version: setup.definition.version,
          ready,
          held,
          leftOut,
          silenced,
          errors: causes.count("error"),
          warnings: causes.count("warning"),
          advice: causes.count("advice"),
          codes: Object.fromEntries(causes.byCode()),
        }),
      ];
    }),
  ];
}
