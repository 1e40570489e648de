/**
 * Completion: which words can stand at the cursor of a shell. Leans on the same tables of options by which commands are
 * declared.
 */
import { ownOf } from "../../core/own.js";
import { codes } from "../../core/diagnostics/entry.js";
import type { Io } from "../../io/io.js";
import type { NamedFolder } from "../../workspace/named-folder.js";
import type { CommandEntry, CommandFile, CommonOptions } from "../command-file.js";
import { commonOptions } from "../options/common-options.js";
import { workspaceWords, type WordKind } from "./workspace-words.js";

const MOST = 200;

/** What kind of word an option's value is, by the option's name. */
const byOption: Readonly<Record<string, WordKind>> = {
  "--lacking": "channel",
  "--channel": "channel",
  "--for-channel": "channel",
  "--category": "category",
  "--in": "category",
  "--group": "group",
  "--sku": "sku",
  "--placed-in": "placed-category",
  "--field": "field",
  "--source": "source",
};

/** What kind of word an argument is, by the name that it is declared with. */
const byArgument: Readonly<Record<string, WordKind>> = {
  channel: "channel",
  channels: "channel",
  sku: "sku",
  skus: "sku",
  field: "field",
  category: "placed-category",
  edits: "attribute",
};

const flagOf = (flags: string): string => /--[a-z-]+/.exec(flags)?.[0] ?? flags;

const common = [...commonOptions.map(([flags]) => flagOf(flags)), "--help"];

interface Line {
  readonly file: CommandFile;
  /** Arguments so far, without options and their values. */
  readonly args: readonly string[];
  /** The option that the word is the value of. */
  readonly open: string | undefined;
}

/** What stands on the line behind the command's name. */
function lineOf(file: CommandFile, words: readonly string[]): Line {
  const valued = new Set([
    ...["-C", "--workspace", "--color"],
    ...Object.values(file.options)
      .filter(({ flags }) => flags.includes("<"))
      .map(({ flags }) => flagOf(flags)),
  ]);
  const args: string[] = [];
  let open: string | undefined;
  for (const word of words) {
    if (open !== undefined) open = undefined;
    else if (valued.has(word)) open = word;
    else if (!word.startsWith("-")) args.push(word);
  }
  return { file, args, open };
}

function argumentKind({ file, args }: Line): WordKind | undefined {
  const [syntax = ""] = file.args[Math.min(args.length, file.args.length - 1)] ?? [];
  if (args.length >= file.args.length && !syntax.includes("...")) return undefined;
  return ownOf(byArgument, syntax.replace(/[^a-z]/g, ""));
}

/** The folder that the line names, so that what is completed is of that shop. */
function folderOn(words: readonly string[], workspace: NamedFolder): NamedFolder {
  const at = words.findIndex((word) => word === "-C" || word === "--workspace");
  const folder = words[at + 1];
  return at < 0 || folder === undefined ? workspace : { folder, named: "-C" };
}

/** The words that can stand where the cursor is; none where the shell's own files can. */
export async function candidates(
  commands: readonly CommandEntry[],
  line: readonly string[],
  { workspace }: CommonOptions,
  io: Io,
): Promise<readonly string[]> {
  const word = line.at(-1) ?? "";
  const before = line.slice(0, -1);
  const matching = (words: Iterable<string>): readonly string[] =>
    [...new Set(words)].filter((one) => one.startsWith(word)).slice(0, MOST);
  const names = commands.map(({ name }) => name);
  const at = before.findIndex((one) => names.includes(one));
  const entry = commands[names.indexOf(before[at] ?? "")];
  if (before.at(-1) === "--color") return matching(["auto", "always", "never"]);
  if (entry === undefined) return matching(word.startsWith("-") ? common : [...names, "help"]);
  if (before.includes("help")) return [];
  const file = await entry.load();
  const behind = lineOf(file, before.slice(at + 1));
  const option = Object.values(file.options).find(({ flags }) => flagOf(flags) === behind.open);
  if (option?.words !== undefined) return matching(option.words);
  if (behind.open === "--code") return matching(codes);
  if (behind.open === undefined && word.startsWith("-"))
    return matching([...Object.values(file.options).map(({ flags }) => flagOf(flags)), ...common]);
  const kind = behind.open === undefined ? argumentKind(behind) : ownOf(byOption, behind.open);
  if (kind === undefined) return [];
  return matching(await workspaceWords(kind, word, behind.args, folderOn(before, workspace), io));
}
