import { command } from "./command.js";
import { addChannels } from "./channels/add-channels.js";
import { listChannels } from "./channels/list-channels.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { nearest } from "../core/values/nearest.js";
import { orNearest } from "../core/diagnostics/phrases.js";
import type { CommandFile } from "./command-file.js";
import { flag, flagOrText, formed, several, text } from "./options/option.js";
import { refuseIdle } from "./options/refuse-idle.js";

const actions = ["add", "learn", "compare", "upgrade"] as const;

const isAction = (word: string): word is (typeof actions)[number] =>
  actions.some((action) => action === word);

/**
 * `lexicant channels`: every definition that can be used, with what it holds; `add` takes some into use, `learn` makes one
 * of what a channel hands out, `compare` and `upgrade` carry a shop over when the channel re-issues it.
 */
export const channels: CommandFile = command({
  args: [
    ["[action]", "add, learn, compare or upgrade; without one, the channels are listed"],
    ["[names...]", "the channels to add; or the channel, and the files to learn from, or versions"],
  ],
  options: {
    as: formed(
      "--as <version>",
      "learn a version beside the one in use",
      /^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/,
      "is a version such as 2027.1: letters, digits, dots and dashes",
    ),
    review: flagOrText(
      "--review [file]",
      "show every guess with its source, or write them as a workbook",
      "is a workbook's name, such as review.xlsx",
    ),
    sheet: text(
      "--sheet <name>",
      "the sheet that is filled in, where a workbook has two",
      "is a sheet's name",
      60,
    ),
    label: text("--label <text>", "the channel's name as people write it", "has 1 to 80 characters", 80),
    language: several(
      "--language <code>",
      "the language of its texts (the shop's)",
      "is a code such as en or pt-BR",
      /^[a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*$/,
    ),
    currency: several(
      "--currency <code>",
      "the currency of its prices (the shop's)",
      "is a code such as GBP",
      /^[A-Z]{3}$/,
    ),
    country: several("--country <code>", "where it sells", "is a code such as GB", /^[A-Z]{2}$/),
    fetch: text(
      "--fetch <version>",
      "with learn: fetch the tree of categories of this version from the channel",
      "is the version that the channel calls it",
      60,
    ),
    back: flag("--back", "with upgrade: go back to what was before the last one"),
    yes: flag("--yes", "change a definition that is there"),
    dryRun: flag("--dry-run", "say what would change, and write nothing"),
  },
  examples: [
    ["channels", "those that are known"],
    ["channels add merrowgate", "take one into use"],
    [
      "channels learn saltmarket template.xlsx categories.csv",
      "make a definition of what a channel hands out",
    ],
    ["channels learn saltmarket template-2027.xlsx --as 2027", "learn its new version beside the one in use"],
    ["channels compare saltmarket 1 2027", "what changes, and what that does to the shop"],
    ["channels upgrade saltmarket 2027", "carry our decisions over"],
  ],
  async run({ args, given, options, io }) {
    const [action, ...names] = args;
    const only = (...known: readonly string[]): boolean => !known.includes(action ?? "");
    refuseIdle([
      [given.as !== undefined && only("learn"), "--as", "learn"],
      [given.review !== undefined && only("learn"), "--review", "learn"],
      [given.sheet !== undefined && only("learn"), "--sheet", "learn"],
      [given.label !== undefined && only("learn"), "--label", "learn"],
      [given.language !== undefined && only("learn"), "--language", "learn"],
      [given.currency !== undefined && only("learn"), "--currency", "learn"],
      [given.country !== undefined && only("learn"), "--country", "learn"],
      [given.fetch !== undefined && only("learn"), "--fetch", "learn"],
      [given.back && only("upgrade"), "--back", "upgrade"],
      [given.yes && only("learn", "upgrade"), "--yes", "learn or upgrade"],
      [given.dryRun && only("learn", "upgrade"), "--dry-run", "learn or upgrade"],
    ]);
    if (action === undefined) return listChannels(options, io);
    if (!isAction(action))
      throw wrongUse(
        `there is no "lexicant channels ${action}"${orNearest(nearest(action, actions))}; there are ${actions.join(", ")}`,
      );
    const [channel, ...rest] = names;
    if (channel === undefined)
      throw wrongUse(`"lexicant channels ${action}" wants a channel's name behind it`);
    switch (action) {
      case "add":
        return addChannels(names, options, io);
      case "learn":
        return (await import("./channels/learn-channel.js")).learnCommand(channel, rest, given, options, io);
      case "compare":
        return (await import("./channels/compare-versions.js")).compareCommand(channel, rest, options, io);
      case "upgrade":
        return (await import("./channels/upgrade-channel.js")).upgradeCommand(
          channel,
          rest,
          given,
          options,
          io,
        );
    }
  },
});

const wrongUse = (reason: string): Refusal => new Refusal([diagnostic("unknown-option", { reason })]);
