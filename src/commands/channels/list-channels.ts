/** `channels` without a word: the definitions there are. Leans on the loader of definitions alone. */
import type { Io } from "../../io/io.js";
import type { ExitCode } from "../../io/exit-code.js";
import { jsonLine } from "../../report/json.js";
import { styleFor } from "../../report/style.js";
import { tableLines } from "../../report/table.js";
import { loadDefinition } from "../../workspace/definition-files.js";
import { definitionsFor } from "../../workspace/workspace.js";
import { workspaceIfAny } from "../../flow/channel-definition.js";
import { surroundingsOf } from "../../flow/open-catalogue.js";
import type { CommonOptions } from "../command-file.js";

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

/** Every definition that can be used, with what it holds. */
export async function listChannels(options: CommonOptions, io: Io): Promise<ExitCode> {
  const workspace = await workspaceIfAny(options.workspace, io);
  const folders = await definitionsFor(workspace);
  const inUse = workspace?.channelsInUse ?? [];
  const found: ShownChannel[] = [];
  for (const folder of folders) {
    const definition = await loadDefinition(folder, surroundingsOf(io, workspace), workspace?.settings);
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
}

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

function print(found: readonly ShownChannel[], inWorkspace: boolean, io: Io): void {
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
}
