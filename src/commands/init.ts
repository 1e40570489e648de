import { command } from "./command.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { text, formed, channelNames, currency } from "./options/option.js";
import { existsSync } from "node:fs";
import { basename, join, resolve } from "node:path";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { jsonLine } from "../report/json.js";
import { createWorkspace } from "../workspace/create-workspace.js";
import { MANIFEST } from "../workspace/workspace.js";
import { newFolder } from "./options/new-folder.js";
import type { CommandFile } from "./command-file.js";
import { landFiles } from "../flow/as-writer.js";
import { enterWorkspace, surroundingsOf } from "../flow/open-catalogue.js";
import { definitionsNamed, takeIntoUse } from "../flow/take-into-use.js";
import { tellInUse } from "../report/tell-in-use.js";

/** `lexicant init`: an empty workspace, or further channels for the one here, with starting decision files. */
export const init: CommandFile = command({
  args: [["[dir]", "the workspace's folder (this one)"]],
  options: {
    shop: text("--shop <name>", "the shop's name (the folder's)", "has 1 to 120 characters", 120),
    language: formed(
      "--language <code>",
      "the language of the catalogue's texts (en)",
      /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/,
      "is a language such as en or de (BCP 47)",
    ),
    currency: currency("--currency <code>", "the currency of prices that name none (GBP)"),
    channel: channelNames("--channel <name>", "begin with this channel; may be given several times"),
  },
  examples: [
    ["init shop --currency EUR --channel merrowgate", "a workspace in the folder shop, with one channel"],
  ],
  async run({ given, args, options, io }) {
    const dir = newFolder(args, options.workspace, ".");
    const root = resolve(io.cwd, dir);
    const workspace = existsSync(join(root, MANIFEST))
      ? await enterWorkspace({ folder: dir, named: "-C" }, io)
      : undefined;
    if (workspace !== undefined && given.channel === undefined)
      throw new Refusal([diagnostic("workspace-exists", { folder: dir })]);
    const isThere = workspace !== undefined;
    refuseIdle([
      [isThere && given.shop !== undefined, "--shop", "a new workspace; lexicant.yaml has it"],
      [isThere && given.language !== undefined, "--language", "a new workspace; lexicant.yaml has it"],
      [isThere && given.currency !== undefined, "--currency", "a new workspace; lexicant.yaml has it"],
    ]);
    const channels = await definitionsNamed(root, given.channel ?? [], surroundingsOf(io, workspace));
    const { language = "en", currency = "GBP" } = given;
    const shop = given.shop ?? (basename(root) || "my shop");
    await landFiles(root, options, io, (landing) =>
      workspace === undefined
        ? createWorkspace(root, landing, { shop, language, currency, channels })
        : takeIntoUse({ workspace, landing }, channels),
    );
    if (options.json)
      io.out(jsonLine({ type: "workspace", folder: dir, channels: channels.map(({ channel }) => channel) }));
    else if (workspace !== undefined && !options.quiet) tellInUse(channels, io);
    else if (!options.quiet) {
      const next = channels.length === 0 ? "name channels in lexicant.yaml, then " : "";
      const [where, at] = root === resolve(io.cwd) ? ["here", ""] : [`in ${dir}`, ` -C ${dir}`];
      io.out(`A workspace is ready ${where}. Next: ${next}lexicant${at} import YOUR-FILE.csv\n`);
    }
    return 0;
  },
});
