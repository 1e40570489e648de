import { command } from "./command.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import { loadDefinition } from "../workspace/definition-files.js";
import { definitionsFor } from "../workspace/workspace.js";
import type { CommandFile, CommonOptions } from "./command-file.js";
import type { ExitCode } from "../io/exit-code.js";
import { workspaceIfAny } from "../flow/channel-definition.js";
import { surroundingsOf, withWritableCatalogue } from "../flow/open-catalogue.js";
import { definitionsNamed, takeIntoUse } from "../flow/take-into-use.js";
import { tellInUse } from "../report/tell-in-use.js";

const columns = [
  { title: "channel" },
  { title: "name" },
  { title: "version" },
  { title: "categories", align: "right" },
  { title: "fields", align: "right" },
  { title: "files", flexible: true },
  { title: "purposes", flexible: true },
  { title: "in use" },
] as const;

/** `lexicant channels`: every definition that can be used, with what it holds; `lexicant channels add` takes some into use. */
export const channels: CommandFile = command({
  args: [
    ["[add]", 'the word "add", to take channels into use with fills to begin with'],
    ["[names...]", "the channels to add"],
  ],
  options: {},
  examples: [
    ["channels", "those that are known"],
    ["channels add merrowgate", "take one into use"],
  ],
  async run({ args, options, io }) {
    const [action, ...names] = args;
    if (action !== undefined) return add(action, names, options, io);
    const workspace = await workspaceIfAny(options.workspace, io);
    const folders = await definitionsFor(workspace);
    const inUse = workspace?.channelsInUse ?? [];
    const found = [];
    for (const folder of folders) {
      const definition = await loadDefinition(folder, surroundingsOf(io), workspace?.settings);
      found.push({
        channel: definition.channel,
        label: definition.label,
        version: definition.version,
        categories: definition.tree.all.length,
        fields: definition.fields.length,
        files: definition.layouts.map(({ file }) => file),
        purposes: definition.purposes,
        inUse: inUse.includes(definition.channel),
      });
    }
    if (options.json) for (const channel of found) io.out(jsonLine({ type: "channel", ...channel }));
    else print(found, workspace !== undefined, io);
    return 0;
  },
});

const add = async (
  action: string,
  names: readonly string[],
  options: CommonOptions,
  io: Io,
): Promise<ExitCode> => {
  if (action !== "add" || names.length === 0)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: '"lexicant channels" lists them, "lexicant channels add NAME" takes one into use',
      }),
    ]);
  const { json, quiet } = options;
  return withWritableCatalogue(options, io, async (open) => {
    const added = await definitionsNamed(open.workspace.root, names, surroundingsOf(io));
    await takeIntoUse(open, added, await open.store.attributes());
    await open.landing.land();
    if (json) io.out(jsonLine({ type: "channels-added", channels: added.map(({ channel }) => channel) }));
    else if (!quiet) tellInUse(added, io);
    return 0;
  });
};

interface ShownChannel {
  readonly channel: string;
  readonly label: string;
  readonly version: string;
  readonly categories: number;
  readonly fields: number;
  readonly files: readonly string[];
  readonly purposes: readonly string[];
  readonly inUse: boolean;
}

const print = (found: readonly ShownChannel[], inWorkspace: boolean, io: Io): void => {
  const rows = found.map(({ channel, label, version, categories, fields, files, purposes, inUse }) => [
    channel,
    label,
    version,
    categories.toLocaleString("en"),
    fields.toLocaleString("en"),
    files.join(", "),
    purposes.join(", "),
    inUse ? "yes" : inWorkspace ? "no" : "",
  ]);
  const [head = "", ...lines] = tableLines(columns, rows, io);
  io.out(`${styleFor(io).bold(head)}\n${lines.map((line) => `${line}\n`).join("")}`);
};
