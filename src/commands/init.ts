import { existsSync } from "node:fs";
import { basename, join, resolve } from "node:path";
import type { ChannelDefinition } from "../core/channel/definition.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/diagnostics/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { jsonLine } from "../report/json.js";
import { definitionNamed, loadDefinition } from "../workspace/definition-files.js";
import { createChannel, createWorkspace } from "../workspace/create-workspace.js";
import { addToManifest } from "../workspace/edit-manifest.js";
import { definitionsIn, MANIFEST, openWorkspace, type Workspace } from "../workspace/workspace.js";
import type { CommandFile } from "./command-file.js";
import { surroundingsOf } from "./flow/open-catalogue.js";
import { validOptions } from "./options/valid-options.js";

const collect = (value: string, earlier: readonly string[] = []): readonly string[] => [...earlier, value];

/** Takes channels into use in a workspace that there is; decisions that are made already stay as they are. */
const takeIntoUse = async (workspace: Workspace, channels: readonly ChannelDefinition[]): Promise<void> => {
  for (const definition of channels) {
    const { channel } = definition;
    if (!existsSync(workspace.path("channels", channel, "channel.yaml")))
      await createChannel(workspace.root, definition);
    if (!workspace.channelsInUse.includes(channel)) await addToManifest(workspace, "channels", channel);
  }
};

/** `lexicant init`: an empty workspace, or further channels for the one here, with starting decision files. */
export const init: CommandFile = {
  declare: (command) =>
    command
      .argument("[dir]", "the workspace's folder (this one)")
      .option("--shop <name>", "the shop's name (the folder's)")
      .option("--language <code>", "the language of the catalogue's texts (en)")
      .option("--currency <code>", "the currency of prices that name none (GBP)")
      .option("--channel <name>", "begin with this channel; may be given several times", collect),
  async run({ args, options, io }) {
    const given = await validOptions(
      options,
      ["shop", "language", "currency", "channel"],
      async () => (await import("./options/init-options.js")).InitOptions,
    );
    const [dir = options.workspace] = args;
    const root = resolve(io.cwd, dir);
    const workspace = existsSync(join(root, MANIFEST)) ? await openWorkspace(root) : undefined;
    if (workspace !== undefined && given.channel === undefined)
      throw new Refusal([diagnostic("workspace-exists", { folder: dir })]);
    const folders = await definitionsIn(root);
    const known = folders.map(({ channel }) => channel);
    const channels = await Promise.all(
      (given.channel ?? []).map((name) =>
        loadDefinition(definitionNamed(folders, name, nearest(name, known)), surroundingsOf(io)),
      ),
    );
    const { language = "en", currency = "GBP" } = given;
    if (workspace !== undefined) await takeIntoUse(workspace, channels);
    else
      await createWorkspace(root, {
        shop: given.shop ?? (basename(root) || "my shop"),
        language,
        currency,
        channels,
      });
    if (options.json)
      io.out(jsonLine({ type: "workspace", folder: root, channels: channels.map(({ channel }) => channel) }));
    else if (workspace !== undefined && !options.quiet)
      io.out(
        channels
          .map(({ channel, label }) => `${label} is in use. Next: lexicant place ${channel}\n`)
          .join(""),
      );
    else if (!options.quiet) {
      const next = channels.length === 0 ? "name channels in lexicant.yaml, then " : "";
      const [where, at] = root === resolve(io.cwd) ? ["here", ""] : [`in ${dir}`, ` -C ${dir}`];
      io.out(`A workspace is ready ${where}. Next: ${next}lexicant${at} import YOUR-FILE.csv\n`);
    }
    return 0;
  },
};
