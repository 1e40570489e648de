import { categoryIndex } from "../core/placement/category-index.js";
import { suggest, type Suggestion } from "../core/placement/suggest.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Category } from "../core/channel/category-tree.js";
import { pathParts, pathText } from "../core/catalogue/category-path.js";
import type { ChannelSetup } from "../core/listing/channel-setup.js";
import { countText } from "../report/findings.js";
import type { Io } from "../report/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { fitWidth } from "../report/text-width.js";
import type { Store } from "../store/store.js";
import { editTable } from "../workspace/edit-table.js";
import { placementColumns } from "../workspace/placements-file.js";
import type { Workspace } from "../workspace/workspace.js";
import type { CommandFile } from "./command-file.js";
import { namedCategory } from "./flow/channel-definition.js";
import { surroundingsOf, withCatalogue } from "./flow/open-catalogue.js";
import { askPlacement } from "./flow/place/ask.js";
import {
  isOpen,
  ourCategories,
  outOfDate,
  subjectOf,
  type OurCategory,
  type OutOfDate,
} from "./flow/place/subjects.js";
import { loadChannels } from "./flow/run-channels.js";
import { validOptions } from "./options/valid-options.js";

const collect = (value: string, earlier: readonly string[] = []): readonly string[] => [...earlier, value];

interface Proposal {
  readonly ours: OurCategory;
  readonly suggestions: readonly Suggestion[];
}

interface Decision {
  readonly path: string;
  readonly category: Category;
  readonly confidence: number;
  readonly by: string;
}

/** `lexicant place CHANNEL`: proposes where our categories go, and writes down what is decided. */
export const place: CommandFile = {
  declare: (command) =>
    command
      .argument("<channel>", "the channel")
      .option("--accept-above <confidence>", "accept every proposal that is at least so sure, as 0.9")
      .option("--set <placement>", '"Our path"=CODE decides one; may be given several times', collect)
      .option("--successors", "follow retired categories to those that take their place")
      .option("--list", "show what is open, and ask nothing")
      .option("--by <name>", "who decides (your login name)")
      .option("--dry-run", "say what would be decided, and write nothing"),
  async run({ args, options, io }) {
    const [channel = ""] = args;
    const given = await validOptions(
      options,
      ["acceptAbove", "set", "by"],
      async () => (await import("./options/place-options.js")).PlaceOptions,
    );
    return withCatalogue(options.workspace, io, async ({ workspace, store }) => {
      const [found] = await loadChannels(workspace, store, [channel], surroundingsOf(io));
      if (found === undefined)
        throw new Refusal([
          diagnostic("unknown-channel", { channel, nearest: [], known: workspace.channelsInUse }),
        ]);
      const { setup } = found;
      const person = given.by ?? io.environment["USER"] ?? io.environment["LOGNAME"] ?? "person";
      const all = await ourCategories(store, setup);
      const stale = outOfDate(all);
      const decided: Decision[] = [
        ...(given.set ?? []).map((text) => setDecision(text, setup, person)),
        ...(options["successors"] === true ? stale.flatMap((one) => successorDecision(one)) : []),
      ];
      const proposals =
        decided.length > 0 ? [] : await propose(workspace, store, setup, all, surroundingsOf(io));
      const { acceptAbove } = given;
      if (acceptAbove !== undefined) decided.push(...accepted(proposals, acceptAbove));
      else if (decided.length === 0 && options["list"] !== true && !options.json && io.isAttended)
        decided.push(...(await asked(proposals, setup, person, io)));
      const dryRun = options["dryRun"] === true;
      if (decided.length > 0 && !dryRun) await write(workspace, setup.channel, decided);
      if (options.json) {
        for (const { path, category, confidence, by } of decided)
          io.out(
            jsonLine({
              type: "placement",
              channel,
              ourCategory: path,
              code: category.code,
              path: category.path,
              confidence,
              decidedBy: by,
              dryRun,
            }),
          );
        if (decided.length === 0) for (const proposal of proposals) io.out(proposalJson(channel, proposal));
      } else io.out(`${report(setup, all, proposals, stale, decided, dryRun, io).join("\n")}\n`);
      return 0;
    });
  },
};

const propose = async (
  workspace: Workspace,
  store: Store,
  setup: ChannelSetup,
  all: readonly OurCategory[],
  surroundings: ReturnType<typeof surroundingsOf>,
): Promise<readonly Proposal[]> => {
  const others = workspace.channelsInUse.filter((name) => name !== setup.channel);
  const elsewhere = others.length === 0 ? [] : await loadChannels(workspace, store, others, surroundings);
  const index = categoryIndex(setup.definition.tree);
  return all.filter(isOpen).map((ours) => {
    const paths = elsewhere.flatMap((other) => {
      const to = other.setup.placements.find("", ours.path)?.to;
      return to?.kind === "category" ? [to.category.path] : [];
    });
    return { ours, suggestions: suggest(subjectOf(ours, all, paths), index) };
  });
};

const setDecision = (text: string, { definition }: ChannelSetup, by: string): Decision => {
  const at = text.lastIndexOf("=");
  if (at <= 0)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `--set "${text}" is no placement; write --set "Our path"=CODE`,
      }),
    ]);
  const category = namedCategory(definition, text.slice(at + 1).trim());
  if (!category.isOpen) throw new Refusal([diagnostic("closed-category", { category: category.path })]);
  return { path: pathText(pathParts(text.slice(0, at))), category, confidence: 1, by };
};

const successorDecision = ({ placement, path, retired }: OutOfDate): readonly Decision[] =>
  retired.successor === undefined
    ? []
    : [{ path: placement?.ourCategory ?? path, category: retired.successor, confidence: 1, by: "successor" }];

const accepted = (proposals: readonly Proposal[], least: number): readonly Decision[] =>
  proposals.flatMap(({ ours, suggestions: [best] }) =>
    best !== undefined && best.confidence >= least
      ? [{ path: ours.path, category: best.category, confidence: best.confidence, by: "lexicant" }]
      : [],
  );

const asked = async (
  proposals: readonly Proposal[],
  setup: ChannelSetup,
  by: string,
  io: Io,
): Promise<readonly Decision[]> => {
  const index = categoryIndex(setup.definition.tree);
  const decided: Decision[] = [];
  for (const { ours, suggestions } of proposals) {
    // A decision for the category above serves this one too.
    if (decided.some(({ path }) => ours.path === path || ours.path.startsWith(`${path} > `))) continue;
    const answer = await askPlacement(ours, suggestions, index, io);
    if (answer.answer === "stop") break;
    if (answer.answer === "place")
      decided.push({ path: answer.path, category: answer.category, confidence: answer.confidence, by });
  }
  return decided;
};

const write = (workspace: Workspace, channel: string, decided: readonly Decision[]): Promise<void> =>
  editTable(
    workspace.path("channels", channel, "placements.csv"),
    placementColumns,
    ["our_category", "sku"],
    decided.map(({ path, category, confidence, by }) => ({
      our_category: path,
      sku: "",
      channel_category: category.code,
      decided_by: by,
      confidence: String(Math.round(confidence * 100) / 100),
    })),
  );

const proposalJson = (channel: string, { ours, suggestions }: Proposal): string =>
  jsonLine({
    type: "placement-proposal",
    channel,
    ourCategory: ours.path,
    products: ours.products,
    suggestions: suggestions.map(({ category, confidence, reason }) => ({
      code: category.code,
      path: category.path,
      confidence: Math.round(confidence * 100) / 100,
      reason,
    })),
  });

const proposalLines = ({ ours, suggestions }: Proposal, io: Io): readonly string[] => {
  const style = styleFor(io);
  const [best, ...others] = suggestions;
  const size = countText(ours.products, "product");
  if (best === undefined)
    return [
      `${style.bold(ours.path)} (${size})`,
      "       nothing like it was found; look with: lexicant categories",
    ];
  const line = ({ category, confidence, reason }: Suggestion): string =>
    fitWidth(
      `${`${Math.round(confidence * 100)}%`.padStart(6)} ${category.path} (${category.code}), ${reason}`,
      io.columns,
    );
  return [
    `${style.bold(ours.path)} (${size})`,
    line(best),
    ...(best.confidence >= 0.9 ? [] : others.map((one) => style.dim(line(one)))),
  ];
};

const report = (
  { channel, definition }: ChannelSetup,
  all: readonly OurCategory[],
  proposals: readonly Proposal[],
  stale: readonly OutOfDate[],
  decided: readonly Decision[],
  dryRun: boolean,
  io: Io,
): readonly string[] => {
  const style = styleFor(io);
  const open = all.filter(isOpen);
  const waiting = open.reduce((sum, { products }) => sum + products, 0);
  const served = open.filter(({ path }) =>
    decided.some((one) => path === one.path || path.startsWith(`${one.path} > `)),
  );
  const left = open.length - served.length;
  const written = decided.map(
    ({ path, category, confidence, by }) =>
      `  ${path} → ${category.path} (${category.code}), ${by}, ${Math.round(confidence * 100)}%`,
  );
  return [
    `${style.bold(`${definition.label} ${definition.version}`)}: ${countText(all.length - open.length, "category", "categories")} of ours placed, ${open.length} open, which ${countText(waiting, "product")} wait for`,
    ...stale.map(
      ({ path, products, retired }) =>
        `${style.severity("warning", "warning")}  ${path} (${countText(products, "product")}) stands in "${retired.code}", retired with ${retired.since}${retired.successor === undefined ? "; place it anew" : `; ${retired.successor.path} takes its place (--successors follows it)`}`,
    ),
    ...(decided.length === 0
      ? proposals.flatMap((proposal) => proposalLines(proposal, io))
      : [
          `${countText(decided.length, "placement")} ${dryRun ? "would be written" : `written to channels/${channel}/placements.csv`}:`,
          ...written,
        ]),
    ...nextSteps(channel, decided.length, proposals, left),
  ];
};

const nextSteps = (
  channel: string,
  decided: number,
  proposals: readonly Proposal[],
  left: number,
): readonly string[] => {
  if (decided > 0)
    return left > 0
      ? [`${left} still open: lexicant place ${channel} --list`]
      : [`Nothing is open; see what stands in the way now: lexicant check ${channel}`];
  if (proposals.length === 0) return [];
  const sure = proposals.filter(({ suggestions: [best] }) => (best?.confidence ?? 0) >= 0.9).length;
  return [
    ...(sure > 0
      ? [
          `Take the ${sure} that ${sure === 1 ? "is" : "are"} sure: lexicant place ${channel} --accept-above 0.9`,
        ]
      : []),
    `Decide one: lexicant place ${channel} --set "${proposals[0]?.ours.path ?? ""}"=${proposals[0]?.suggestions[0]?.category.code ?? "CODE"}`,
  ];
};
