import { command } from "./command.js";
import { flag } from "./options/option.js";
import { existsSync } from "node:fs";
import { cp, readdir, rename, rm } from "node:fs/promises";
import { basename, dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { writeFault } from "../formats/file-fault.js";
import { clearLeftovers } from "../io/leftovers.js";
import { jsonLine } from "../report/json.js";
import { openWorkspace } from "../workspace/workspace.js";
import { newFolder } from "./options/new-folder.js";
import type { CommandFile } from "./command-file.js";
import { importFile } from "./import.js";

const demoShop = fileURLToPath(new URL("../../demo/shop", import.meta.url));

/** Files of the demo shop in the order in which they arrive. */
const incoming = [
  "data/shop-export.csv",
  "data/tarnbeck-winter-list.xlsx",
  "data/fernditch.xml",
  "data/stock-2026-11-24.csv",
  "data/lanternlist-words.txt",
] as const;

/** `lexicant demo [DIR]`: Brindlecote's workspace in a new folder, with its files imported. */
export const demo: CommandFile = command({
  args: [["[dir]", "a new folder (brindlecote)"]],
  options: {
    empty: flag("--empty", "leave the files in data/ for you to import"),
  },
  examples: [["demo", "the made-up shop in the folder brindlecote"]],
  async run({ given, args, options, io }) {
    const dir = newFolder(args, options.workspace, "brindlecote");
    const root = resolve(io.cwd, dir);
    await madeBeside(root, dir, async (beside) => {
      await cp(demoShop, beside, { recursive: true, errorOnExist: true });
      // A package carries no file of that name: it ships without its dot.
      await rename(join(beside, "gitignore"), join(beside, ".gitignore"));
      for (const file of given.empty ? [] : incoming)
        await importFile.run({
          args: [join(beside, file)],
          options: { ...options, workspace: { folder: beside, named: "-C" } },
          io,
        });
    });
    if (options.json)
      io.out(
        jsonLine({
          type: "workspace",
          folder: dir,
          channels: (await openWorkspace(root)).channelsInUse,
        }),
      );
    else if (!options.quiet)
      io.out(
        `\nBrindlecote's workspace is in ${dir}. Next:\n` +
          `  lexicant -C ${dir} check            what each channel still misses, and why\n` +
          `  lexicant -C ${dir} fills merrowgate   what fills each field there, and how much stays blank\n` +
          `  lexicant -C ${dir} build            the files, from all that is ready\n` +
          `  lexicant -C ${dir} show BC-1301-WHITE-M   one product, and where each value came from\n`,
      );
    return 0;
  },
});

/** Makes a folder beside its place and puts it there when it is whole: what is broken off is never taken for a workspace. */
async function madeBeside(
  root: string,
  shown: string,
  make: (beside: string) => Promise<void>,
): Promise<void> {
  const beside = `${root}.${process.pid}.new`;
  const own = `${basename(root)}.`;
  try {
    clearLeftovers(dirname(root), (name) =>
      name.startsWith(own) ? /^(\d+)\.new$/.exec(name.slice(own.length))?.[1] : undefined,
    );
    if (existsSync(root) && (await readdir(root)).length > 0)
      throw new Refusal([diagnostic("folder-not-empty", { folder: shown })]);
    await make(beside);
    await rm(root, { recursive: true, force: true });
    await rename(beside, root);
  } catch (error) {
    await rm(beside, { recursive: true, force: true }).catch(() => undefined);
    throw writeFault(shown, error);
  }
}
