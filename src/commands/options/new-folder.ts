import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { NamedFolder } from "../../workspace/named-folder.js";

/** The folder that a new workspace goes to: the argument, or -C; both would say it twice. What the environment names is another shop. */
export function newFolder(
  [argument]: readonly string[],
  { folder, named }: NamedFolder,
  usual: string,
): string {
  if (named !== "-C") return argument ?? usual;
  if (argument === undefined) return folder;
  throw new Refusal([
    diagnostic("unknown-option", {
      reason: `the new folder is named twice: as ${argument} and by -C ${folder}; give one of them`,
    }),
  ]);
}
