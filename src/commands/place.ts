import { addAll } from "../core/many.js";
import { acceptAbove } from "./options/shared-options.js";
import { command } from "./command.js";
import { flag, text, several } from "./options/option.js";
import type { ChannelSetup } from "../core/listing/channel-setup.js";
import { categoryIndex } from "../core/placement/category-index.js";
import type { Suggestion } from "../core/placement/suggest.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { findingJson, jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { oneLine } from "../report/table.js";
import { tellAdvice } from "../report/tell-advice.js";
import { brokenText } from "../report/answered.js";
import { refuseIdle, refuseTogether } from "./options/refuse-idle.js";
import { askPlacements } from "../report/ask-placements.js";
import type { CommandFile } from "./command-file.js";
import { landFiles } from "../flow/as-writer.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { decideAll } from "../flow/decide-all.js";
import {
  accepted,
  setDecision,
  successorDecision,
  writeDecisions,
  type PlacementDecision,
} from "../flow/place/decisions.js";
import { goodsKnownFor } from "../flow/known-goods.js";
import {
  fitsNowhere,
  isUnknown,
  keyOf,
  productsOf,
  propose,
  skusOf,
  titleOf,
  type PlacementProposal,
} from "../flow/place/proposals.js";
import {
  isOpen,
  ourCategories,
  outOfDate,
  type OurCategory,
  type OutOfDate,
} from "../flow/place/subjects.js";
import type { Store } from "../store/store.js";
import { refuseUnknownCategory } from "../flow/refusals.js";
import { loadChannel } from "../flow/run-channels.js";

/** `lexicant place CHANNEL`: proposes where our categories go, and writes down what is decided. */
export const place: CommandFile = command({
  args: [["<channel>", "the channel"]],
  options: {
    acceptAbove,
    set: several(
      "--set <placement>",
      '"Our path"=CODE decides one; may be given several times',
      'is "Our path"=CODE',
    ),
    successors: flag("--successors", "follow retired categories to those that take their place"),
    list: flag("--list", "show what is open, and ask nothing"),
    by: text("--by <name>", "who decides (your login name)", "has 1 to 80 characters", 80),
    dryRun: flag("--dry-run", "say what would be decided, and write nothing"),
  },
  examples: [
    ["place merrowgate", "answer one proposal after the other"],
    ["place merrowgate --accept-above 90", "take all that is sure"],
    ['place merrowgate --set "Bees > Hives"=CODE', "decide one"],
  ],
  async run({ given, args, options, io }) {
    const [channel = ""] = args;
    refuseTogether([
      [given.acceptAbove !== undefined, "--accept-above"],
      [given.set !== undefined, "--set"],
      [given.successors, "--successors"],
      [given.list, "--list"],
    ]);
    refuseIdle([
      [given.by !== undefined && given.list, "--by", "a decision, not with --list"],
      [given.dryRun && given.list, "--dry-run", "a decision, not with --list"],
    ]);
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const { setup } = await loadChannel(workspace, store, channel, await surroundings());
      const person = given.by ?? io.environment["USER"] ?? io.environment["LOGNAME"] ?? "person";
      const ours = await ourCategories(store, setup);
      const all = ours.categories;
      const stale = outOfDate(all);
      const asked = await decideAll("--set", given.set ?? [], async (text) => {
        await refuseNobodys(text, store);
        return setDecision(text, setup, ours, person);
      });
      const decided: PlacementDecision[] = [
        ...asked,
        ...(given.successors ? stale.flatMap((one) => successorDecision(one)) : []),
      ];
      // What is known of goods is read where something is proposed or looked for.
      const index =
        decided.length > 0
          ? undefined
          : categoryIndex(setup.definition.tree, await goodsKnownFor(workspace, setup.channel));
      const proposals =
        index === undefined ? [] : await propose(workspace, store, setup, ours, index, await surroundings());
      const { acceptAbove } = given;
      const dryRun = given.dryRun;
      let isBroken = false;
      const keep = async (some: readonly PlacementDecision[]): Promise<void> => {
        if (some.length === 0 || dryRun) return;
        await landFiles(workspace.root, options, io, (landing) =>
          writeDecisions({ workspace, landing }, setup.channel, some),
        );
      };
      if (acceptAbove !== undefined) addAll(decided, accepted(proposals, acceptAbove));
      if (decided.length > 0) await keep(decided);
      else if (
        index !== undefined &&
        acceptAbove === undefined &&
        !given.list &&
        !options.json &&
        io.isAttended
      ) {
        // Each answer is kept at once: an hour of them is not lost with the last.
        const answered = await askPlacements(proposals, index, person, io, (decision) => keep([decision]));
        addAll(decided, answered.decided);
        ({ isBroken } = answered);
      }
      if (isBroken) io.err(`${brokenText(decided.length, "placement", dryRun)}\n`);
      if (options.json) {
        for (const { path, skus, category, confidence, by } of decided)
          io.out(
            jsonLine({
              type: "placement",
              channel,
              ourCategory: path,
              skus,
              code: category.code,
              path: category.path,
              confidence: rounded(confidence),
              decidedBy: by,
              dryRun,
            }),
          );
        if (decided.length === 0) for (const proposal of proposals) io.out(proposalJson(channel, proposal));
        for (const finding of ours.idle) io.out(findingJson(finding));
      } else {
        tellAdvice([{ advice: ours.idle }], options, io);
        io.out(`${report(setup, all, proposals, stale, decided, dryRun, io).join("\n")}\n`);
      }
      return isBroken ? 130 : 0;
    });
  },
});

/** What a placement is of: a category of ours, or one product. */
async function refuseNobodys(text: string, store: Store): Promise<void> {
  const ours = text.slice(0, Math.max(0, text.lastIndexOf("="))).trim();
  if (ours !== "" && (await store.product(ours)) === undefined) await refuseUnknownCategory(ours, store);
}

const APART_SHOWN = 20;

const rounded = (confidence: number): number => Math.round(confidence * 100) / 100;

const proposalJson = (
  channel: string,
  { ours, suggestions, nothing, goodsKnown }: PlacementProposal,
): string =>
  jsonLine({
    type: "placement-proposal",
    channel,
    ourCategory: ours.path,
    skus: skusOf(ours),
    products: productsOf(ours),
    suggestions: suggestions.map(({ category, confidence, reason }) => ({
      code: category.code,
      path: category.path,
      confidence: rounded(confidence),
      reason,
    })),
    nothingFits: rounded(nothing),
    goodsKnown: rounded(goodsKnown),
  });

function proposalLines(proposal: PlacementProposal, io: Io): readonly string[] {
  const { ours, suggestions, nothing } = proposal;
  const style = styleFor(io);
  const [best, ...others] = suggestions;
  // What stands apart is elsewhere by far: the next best say nothing.
  const isApart = "skus" in ours && ours.path !== "";
  const title = `${style.bold(titleOf(ours))} (${countText(productsOf(ours), "product")})`;
  if (best === undefined) return [title, "       nothing like it was found; look with: lexicant categories"];
  const line = ({ category, confidence, reason }: Suggestion): string =>
    oneLine(
      `${`${Math.round(confidence * 100)}%`.padStart(6)} ${category.path} (${category.code}), ${reason}`,
      io,
    );
  return [
    title,
    ...(isUnknown(proposal)
      ? ["       what these are is not known here; the nearest by their words are"]
      : fitsNowhere(proposal)
        ? [`${`${Math.round(nothing * 100)}%`.padStart(6)} the channel has no place for it; the nearest are`]
        : []),
    line(best),
    ...(best.confidence >= 0.9 || isApart ? [] : others.map((one) => style.dim(line(one)))),
  ];
}

/** Products that go elsewhere than their category, and those that have none. */
function apartLines(proposals: readonly PlacementProposal[], io: Io): readonly string[] {
  const style = styleFor(io);
  const apart = proposals.filter(({ ours }) => "skus" in ours);
  return apart.length === 0
    ? []
    : [
        "",
        style.bold("Products that seem to stand apart from their category, or have none"),
        ...apart.slice(0, APART_SHOWN).flatMap((proposal) => proposalLines(proposal, io)),
        ...(apart.length > APART_SHOWN ? [`and ${apart.length - APART_SHOWN} more (all with --json)`] : []),
      ];
}

function report(
  { channel, definition }: ChannelSetup,
  all: readonly OurCategory[],
  proposals: readonly PlacementProposal[],
  stale: readonly OutOfDate[],
  decided: readonly PlacementDecision[],
  dryRun: boolean,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const open = all.filter(isOpen);
  const waiting = open.reduce((sum, { products }) => sum + products, 0);
  const served = open.filter(({ path }) =>
    decided.some((one) => one.skus.length === 0 && (path === one.path || path.startsWith(`${one.path} > `))),
  );
  const left = open.length - served.length;
  const written = decided.map(
    ({ path, skus, category, confidence, by }) =>
      `  ${skus.length === 0 ? path : skus.join(", ")} → ${category.path} (${category.code}), ${by}, ${Math.round(confidence * 100)}%`,
  );
  return [
    `${style.bold(`${definition.label} ${definition.version}`)}: ${countText(all.length - open.length, "category", "categories")} of ours placed, ${open.length} open${waitingText(open.length, waiting)}`,
    ...stale.map(
      ({ path, products, retired }) =>
        `${style.severity("warning", "warning")}  ${path} (${countText(products, "product")}) stands in "${retired.code}", retired with ${retired.since}${retired.successor === undefined ? "; place it anew" : `; ${retired.successor.path} takes its place (--successors follows it)`}`,
    ),
    ...(decided.length === 0
      ? [
          ...proposals.filter(({ ours }) => !("skus" in ours)).flatMap((one) => proposalLines(one, io)),
          ...apartLines(proposals, io),
        ]
      : [
          `${countText(decided.length, "placement")} ${dryRun ? "would be written" : `written to channels/${channel}/placements.csv`}:`,
          ...written,
        ]),
    ...nextSteps(channel, decided.length, proposals, left),
  ];
}

const waitingText = (open: number, waiting: number): string =>
  open === 0 ? "" : `, which ${countText(waiting, "product")} ${waiting === 1 ? "waits" : "wait"} for`;

function nextSteps(
  channel: string,
  decided: number,
  proposals: readonly PlacementProposal[],
  left: number,
): readonly string[] {
  if (decided > 0)
    return left > 0
      ? [`${left} still open: lexicant place ${channel} --list`]
      : [`Nothing is open; see what stands in the way now: lexicant check ${channel}`];
  if (proposals.length === 0) return [];
  const sure = proposals.filter(({ suggestions: [best] }) => (best?.confidence ?? 0) >= 0.9).length;
  const unknown = proposals.filter((one) => !("skus" in one.ours) && isUnknown(one)).length;
  // What fits nowhere is no example of where to put something.
  const example = proposals.find((one) => !fitsNowhere(one));
  const code = example?.suggestions[0]?.category.code ?? "CODE";
  return [
    ...(sure > 0
      ? [
          `Take the ${sure} that ${sure === 1 ? "is" : "are"} sure: lexicant place ${channel} --accept-above 90`,
        ]
      : []),
    ...(unknown > 0
      ? [
          `Of ${unknown === 1 ? "one" : unknown} it is not known what the goods are: name them in tables/goods.csv (docs/goods.md), or decide some; what is called like those follows.`,
        ]
      : []),
    `Decide one: lexicant place ${channel} --set "${keyOf(example ?? proposals[0])}"=${code}`,
  ];
}
