import { existsSync } from "node:fs";
import { basename, join, resolve } from "node:path";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/diagnostics/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { jsonLine } from "../report/json.js";
import { definitionNamed, loadDefinition } from "../workspace/definition-files.js";
import { createWorkspace } from "../workspace/create-workspace.js";
import { definitionsFor, MANIFEST } from "../workspace/workspace.js";
import type { CommandFile } from "./command-file.js";
import { surroundingsOf } from "./flow/open-catalogue.js";
import { validOptions } from "./options/valid-options.js";

const collect = (value: string, earlier: readonly string[] = []): readonly string[] => [...earlier, value];

/** `lexicant init`: an empty workspace, with starting decision files for the channels named. */
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
    if (existsSync(join(root, MANIFEST)))
      throw new Refusal([diagnostic("workspace-exists", { folder: dir })]);
    const folders = await definitionsFor(undefined);
    const known = folders.map(({ channel }) => channel);
    const channels = await Promise.all(
      (given.channel ?? []).map((name) =>
        loadDefinition(definitionNamed(folders, name, nearest(name, known)), surroundingsOf(io)),
      ),
    );
    const { language = "en", currency = "GBP" } = given;
    await createWorkspace(root, {
      shop: given.shop ?? (basename(root) || "my shop"),
      language,
      currency,
      channels,
    });
    if (options.json)
      io.out(jsonLine({ type: "workspace", folder: root, channels: channels.map(({ channel }) => channel) }));
    else if (!options.quiet) {
      const next = channels.length === 0 ? "name channels in lexicant.yaml, then " : "";
      io.out(`A workspace is ready in ${dir}. Next: ${next}lexicant -C ${dir} import YOUR-FILE.csv\n`);
    }
    return 0;
  },
};
