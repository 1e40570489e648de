import { existsSync } from "node:fs";
import { basename, join, resolve } from "node:path";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { jsonLine } from "../report/json.js";
import { createWorkspace } from "../workspace/create-workspace.js";
import { MANIFEST, openWorkspace } from "../workspace/workspace.js";
import type { CommandFile } from "./command-file.js";
import { surroundingsOf } from "../flow/open-catalogue.js";
import { definitionsNamed, takeIntoUse } from "../flow/take-into-use.js";
import { tellInUse } from "../report/tell-in-use.js";
import { collect } from "./options/collect.js";
import { validOptions } from "./options/valid-options.js";

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
    const channels = await definitionsNamed(root, given.channel ?? [], surroundingsOf(io));
    const { language = "en", currency = "GBP" } = given;
    if (workspace !== undefined) await takeIntoUse(workspace, channels, undefined);
    else
      await createWorkspace(root, {
        shop: given.shop ?? (basename(root) || "my shop"),
        language,
        currency,
        channels,
      });
    io.landed();
    if (options.json)
      io.out(jsonLine({ type: "workspace", folder: root, channels: channels.map(({ channel }) => channel) }));
    else if (workspace !== undefined && !options.quiet) tellInUse(channels, io);
    else if (!options.quiet) {
      const next = channels.length === 0 ? "name channels in lexicant.yaml, then " : "";
      const [where, at] = root === resolve(io.cwd) ? ["here", ""] : [`in ${dir}`, ` -C ${dir}`];
      io.out(`A workspace is ready ${where}. Next: ${next}lexicant${at} import YOUR-FILE.csv\n`);
    }
    return 0;
  },
};
