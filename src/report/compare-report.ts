/** Two versions of a channel beside each other, and what an upgrade did. */
import { countText } from "../core/diagnostics/phrases.js";
import type { DefinitionChange } from "../core/learning/definition-change.js";
import type { CarriedFiles } from "../flow/learn/carry.js";
import type { VersionsCompared } from "../flow/learn/compare.js";
import type { Downgraded, Upgraded } from "../flow/learn/upgrade.js";
import type { Io } from "../io/io.js";
import { causeTable } from "./cause-table.js";
import { jsonLine } from "./json.js";
import { styleFor } from "./style.js";
import { tableLines } from "./table.js";

const kinds = {
  "field-added": ["field added", "fields added"],
  "field-gone": ["field gone", "fields gone"],
  "field-renamed": ["field renamed", "fields renamed"],
  "field-moved": ["need or limit moved", "needs and limits moved"],
  "value-added": ["value added", "values added"],
  "value-gone": ["value gone", "values gone"],
  "value-renamed": ["value renamed", "values renamed"],
  "category-added": ["category added", "categories added"],
  "category-gone": ["category gone", "categories gone"],
  "category-moved": ["category moved or renamed", "categories moved or renamed"],
} as const satisfies Readonly<Record<DefinitionChange["change"], readonly [one: string, many: string]>>;

/** A renaming less likely than this is carried over, and a person looks at it. */
const CERTAIN = 0.8;

const percent = (share: number): string => `${Math.round(share * 100)}%`;

const scoped = (scope: string): string => (scope === "*" ? "" : ` in ${scope}`);

function cellsOf(change: DefinitionChange): readonly [what: string, was: string, is: string, note: string] {
  switch (change.change) {
    case "field-added":
      return [change.label, "", change.field, change.need];
    case "field-gone":
      return [change.label, change.field, "", ""];
    case "field-renamed":
      return [change.label, change.field, change.to, `${percent(change.confidence)}: ${change.because}`];
    case "field-moved":
      return [
        `${change.label}${scoped(change.scope)}`,
        change.from || "none",
        change.to || "none",
        change.what,
      ];
    case "value-added":
      return [`${change.label}${scoped(change.scope)}`, "", change.value, ""];
    case "value-gone":
      return [`${change.label}${scoped(change.scope)}`, change.value, "", ""];
    case "value-renamed":
      return [`${change.label}${scoped(change.scope)}`, change.value, change.to, percent(change.confidence)];
    case "category-added":
      return [change.path, "", change.code, ""];
    case "category-gone":
      return [change.path, change.code, "", ""];
    case "category-moved":
      return [
        change.path,
        change.code,
        change.code === change.to ? change.toPath : `${change.to} (${change.toPath})`,
        change.confidence === 1 ? "" : percent(change.confidence),
      ];
  }
}

const columns = [
  { title: "what", flexible: true },
  { title: "was and is", flexible: true },
  { title: "", flexible: true },
] as const;

function tableCells(change: DefinitionChange): readonly string[] {
  const [what, was, is, note] = cellsOf(change);
  return [what, was !== "" && is !== "" ? `${was} → ${is}` : was || is, note];
}

/** Of each kind so many lines at most on a terminal; a file has them all. */
const MOST_LINES = 25;

function changeLines(changes: readonly DefinitionChange[], io: Io): readonly string[] {
  const style = styleFor(io);
  return (Object.keys(kinds) as DefinitionChange["change"][]).flatMap((kind) => {
    const own = changes.filter(({ change }) => change === kind);
    if (own.length === 0) return [];
    const shown = io.isTerminal ? own.slice(0, MOST_LINES) : own;
    const [, ...lines] = tableLines(columns, shown.map(tableCells), io);
    return [
      style.bold(countText(own.length, kinds[kind][0], kinds[kind][1])),
      ...lines.map((line) => `  ${line}`),
      ...(own.length > shown.length ? [`  and ${own.length - shown.length} more`] : []),
    ];
  });
}

/** Decisions that are left to a person, those with one reason together. */
function openLines(carried: CarriedFiles): readonly string[] {
  const byReason = new Map<string, string[]>();
  for (const [name, { open }] of carried)
    for (const { what, reason } of open) {
      const key = `${name}: ${reason}`;
      byReason.set(key, [...(byReason.get(key) ?? []), what]);
    }
  return [...byReason].map(
    ([key, all]) =>
      `  ${key}: ${all
        .slice(0, 3)
        .map((what) => what.slice(0, 60))
        .join("; ")}${all.length > 3 ? ` and ${all.length - 3} more` : ""}`,
  );
}

const guessedLines = (changes: readonly DefinitionChange[]): readonly string[] =>
  changes.flatMap((change) => {
    if (!("confidence" in change) || change.confidence >= CERTAIN) return [];
    const [what, was, is] = cellsOf(change);
    return [`  ${what}: ${was} → ${is} (${percent(change.confidence)})`];
  });

function carriedLines(
  carried: CarriedFiles,
  changes: readonly DefinitionChange[],
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  // That channel.yaml names the version goes without saying.
  const changed = [...carried].filter(
    ([name, file]) => name !== "channel.yaml" && (file.changed > 0 || file.open.length > 0),
  );
  const [open, guessed] = [openLines(carried), guessedLines(changes)];
  return [
    ...changed.map(
      ([name, file]) =>
        `  ${name}: ${countText(file.changed, "entry", "entries")} carried over${file.open.length > 0 ? `, ${file.open.length} left to you` : ""}`,
    ),
    ...(open.length === 0
      ? []
      : [
          style.bold("Left to you"),
          ...open.slice(0, 20),
          ...(open.length > 20 ? [`  and ${open.length - 20} more`] : []),
        ]),
    ...(guessed.length === 0
      ? []
      : [
          style.bold("Carried over on a guess: are they the same?"),
          ...guessed.slice(0, 20),
          ...(guessed.length > 20 ? [`  and ${guessed.length - 20} more`] : []),
        ]),
  ];
}

/** Two versions, for people. */
export function comparedLines(
  { before, after, changes, shop }: VersionsCompared,
  channel: string,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const head = `${style.bold(after.definition.label)} ${before.version} → ${after.version}: ${changes.length === 0 ? "nothing changes" : countText(changes.length, "change")}`;
  const effect = shop?.effect;
  return [
    head,
    ...changeLines(changes, io),
    "",
    ...(shop === undefined || effect === undefined
      ? [
          before.isCurrent
            ? `${channel} is not in use here: nothing of the shop is touched`
            : `${before.version} is not the version in use: what it does to the shop is told from that one`,
        ]
      : [
          style.bold("What it does to the shop"),
          `  listings: ${effect.readyBefore.toLocaleString("en")} ready now, ${effect.readyAfter.toLocaleString("en")} with ${after.version}${effect.lost > 0 ? `; ${countText(effect.lost, "product")} would be held` : ""}${effect.gained > 0 ? `; ${countText(effect.gained, "product")} would become ready` : ""}${effect.homeless > 0 ? `; ${countText(effect.homeless, "product")} without a category` : ""}`,
          ...carriedLines(shop.carried, changes, io),
          ...(effect.lost > 0
            ? [
                "",
                style.bold("Why products that are ready now would be held"),
                ...causeTable(effect.causes.causes(), io, 8),
              ]
            : []),
        ]),
    ...(before.isCurrent && changes.length > 0
      ? [
          "",
          `To take it into use: lexicant channels upgrade ${channel} ${after.version} (it can be taken back)`,
        ]
      : []),
  ];
}

/** Two versions, for programs. */
export function comparedJson(
  { before, after, changes, shop }: VersionsCompared,
  channel: string,
): readonly string[] {
  return [
    jsonLine({
      type: "versions-compared",
      channel,
      from: before.version,
      to: after.version,
      changes: changes.length,
      shop:
        shop === undefined
          ? null
          : {
              readyBefore: shop.effect.readyBefore,
              readyAfter: shop.effect.readyAfter,
              lost: shop.effect.lost,
              gained: shop.effect.gained,
              homeless: shop.effect.homeless,
              carried: [...shop.carried].map(([file, { changed, open }]) => ({ file, changed, open })),
            },
    }),
    ...changes.map((change) => jsonLine({ type: "version-change", channel, ...change })),
  ];
}

/** An upgrade, for people. */
export function upgradedLines(
  { from, to, carried, changes }: Upgraded,
  channel: string,
  isTrial: boolean,
  io: Io,
): readonly string[] {
  return [
    `${styleFor(io).bold(channel)} ${isTrial ? "would go" : "went"} from ${from} to ${to}`,
    ...carriedLines(carried, changes, io),
    ...(isTrial
      ? ["Nothing was written: this was a dry run."]
      : [`Next: lexicant check ${channel}. To go back: lexicant channels upgrade ${channel} --back`]),
  ];
}

/** An upgrade, for programs. */
export function upgradedJson({ from, to, carried }: Upgraded, channel: string, isTrial: boolean): string {
  return jsonLine({
    type: "channel-upgraded",
    channel,
    from,
    to,
    trial: isTrial,
    carried: [...carried].map(([file, { changed, open }]) => ({ file, changed, open })),
  });
}

/** An upgrade taken back, for people. */
export const downgradedLine = ({ from, to, files }: Downgraded, channel: string): string =>
  `${channel} is at ${to} again (it was ${from}); ${files.length === 0 ? "no decision file was touched" : `${files.join(", ")} ${files.length === 1 ? "is" : "are"} as before`}\n`;

/** An upgrade taken back, for programs. */
export function downgradedJson({ from, to, files }: Downgraded, channel: string): string {
  return jsonLine({
    type: "channel-upgraded",
    channel,
    from,
    to,
    trial: false,
    carried: files.map((file) => ({ file, changed: 0, open: [] })),
  });
}
