import { join, resolve } from "node:path";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { shippedDefinitions, workspaceAround } from "../workspace/workspace.js";
import { jsonLine } from "../report/json.js";
import { command } from "./command.js";
import type { CommandFile } from "./command-file.js";
import { channelNames, several, text, wholeNumber } from "./options/option.js";

const PORT = 4180;
const PACE_MILLISECONDS = 400;
const TOKEN = "LEXICANT_SANDBOX_TOKEN";

/** `lexicant sandbox`: plays channels, so that everything can be tried without one. */
export const sandbox: CommandFile = command({
  args: [],
  options: {
    channel: channelNames("--channel <name>", "play this channel; several by giving it again (all)"),
    port: wholeNumber("--port <number>", `the port on this machine (${PORT})`, { least: 0, most: 65_535 }),
    folder: text(
      "--folder <dir>",
      "where channels lie that take files from folders (sandbox/folders)",
      "is a folder",
    ),
    state: text("--state <file>", "where it remembers what it was sent (sandbox/state.json)", "is a file"),
    pace: wholeNumber("--pace <milliseconds>", `how long it works at a file (${PACE_MILLISECONDS})`, {
      least: 0,
      most: 600_000,
    }),
    mood: several(
      "--mood <mood>",
      "what it does wrong, as CHANNEL:MOOD or CHANNEL:MOOD:TIMES; several by giving it again",
      "is a channel's name and a mood, such as merrowgate:busy:2",
      /^[a-z0-9-]+:[a-z-]+(?::\d{1,4})?$/,
    ),
    dislikes: several(
      "--dislikes <rule>",
      "a rule of the house that no definition tells, as CHANNEL:FIELD:WORD",
      "is a channel's name, a field and a word, such as merrowgate:item_title:calm",
      /^[a-z0-9-]+:[a-z0-9_]+:.+$/,
    ),
  },
  examples: [
    ["sandbox", "play every channel, until Ctrl+C"],
    ["sandbox --channel merrowgate --mood merrowgate:cut-after", "take the next file, and cut the line"],
  ],
  async run({ given, options, io }) {
    const { definitionFolders, Sandbox } = await import("../sandbox/sandbox.js");
    const { moods, serveSandbox } = await import("../sandbox/serve-sandbox.js");
    const { serveFolder } = await import("../sandbox/serve-folder.js");
    const root = workspaceAround(options.workspace, io.cwd);
    const roots = [...(root === undefined ? [] : [join(root, "definitions")]), shippedDefinitions];
    const folders = definitionFolders(roots);
    const wrong = (reason: string): never => {
      throw new Refusal([diagnostic("unknown-option", { reason })]);
    };
    for (const name of given.channel ?? [])
      if (!folders.has(name))
        wrong(`--channel: there is no definition of "${name}"; there are ${[...folders.keys()].join(", ")}`);
    const at = (path: string | undefined, usual: string): string => resolve(io.cwd, path ?? usual);
    const token = io.environment[TOKEN] ?? "sandbox";
    const own = new Sandbox({
      definitions: folders,
      channels: given.channel ?? [],
      stateFile: at(given.state, "sandbox/state.json"),
      pace: given.pace ?? PACE_MILLISECONDS,
      token,
    });
    for (const line of given.mood ?? []) {
      const [name = "", mood = "", times = "1"] = line.split(":");
      const played = own.channels.get(name) ?? wrong(`--mood: "${name}" is not played`);
      if (!moods.some((known) => known === mood)) wrong(`--mood: "${mood}" is none of ${moods.join(", ")}`);
      played.wish(mood, Number(times));
    }
    for (const line of given.dislikes ?? []) {
      const [name = "", field = "", ...words] = line.split(":");
      const played = own.channels.get(name) ?? wrong(`--dislikes: "${name}" is not played`);
      played.state.dislikes.push({ field, word: words.join(":") });
    }
    const folder = at(given.folder, "sandbox/folders");
    const dropped = serveFolder(own, folder);
    const listening = await serveSandbox(own, given.port ?? PORT, dropped.refresh).catch((error: unknown) => {
      const { code = "", message } = error as NodeJS.ErrnoException;
      return wrong(
        `--port: ${code === "EADDRINUSE" ? "another program listens there; choose another" : message}`,
      );
    });
    dropped.refresh();
    const address = `http://127.0.0.1:${listening.port}`;
    for (const [name, { data }] of own.channels) {
      const where = data.exchange.send["as"] === "drop" ? join(folder, name) : `${address}/${name}`;
      io.out(
        options.json
          ? jsonLine({ type: "sandbox", channel: name, address: where })
          : `${name.padEnd(14)}${where}\n`,
      );
    }
    if (!options.json && !options.quiet)
      io.err(`The token of each is what ${TOKEN} says ("sandbox" where it says nothing). Ctrl+C ends it.\n`);
    await io.untilEnded();
    await dropped.close();
    await listening.close();
    own.save();
    return 0;
  },
});
