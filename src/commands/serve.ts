import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { command } from "./command.js";
import type { CommandFile } from "./command-file.js";
import { flag, oneOf, text, wholeNumber } from "./options/option.js";
import { alone } from "../flow/exchange/exchange-lock.js";
import { logForms, logTo } from "../flow/log.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { loadChannels } from "../flow/run-channels.js";
import { feedPlaces, serveFeeds } from "../flow/serve/serve-feeds.js";
import { publishedOf } from "../flow/serve/published.js";
import type { ExitCode } from "../io/exit-code.js";
import { jsonLine } from "../report/json.js";

const PORT = 4190;
const HOST = "127.0.0.1";

/** `lexicant serve`: the channels fetch their feeds here, and find them fresh. */
export const serve: CommandFile = command({
  args: [["[channels...]", "channels (all that have serve settings in their channel.yaml)"]],
  options: {
    port: wholeNumber("--port <number>", `the port (${PORT})`, { least: 0, most: 65_535 }),
    host: text(
      "--host <address>",
      `the address of this machine that it listens on (${HOST})`,
      "is an address",
    ),
    log: oneOf("--log <form>", "the log on standard error: text or json (text)", logForms),
    showAddresses: flag(
      "--show-addresses",
      "show the feeds' addresses, the secret ones too, and serve nothing",
    ),
  },
  examples: [
    ["serve", "publish every feed that is set to be, until Ctrl+C"],
    ["serve lanternlist --show-addresses", "what to tell the channel"],
  ],
  async run({ given, args, options, io }) {
    const port = given.port ?? PORT;
    const host = given.host ?? HOST;
    const { workspace, channels } = await withCatalogue(options.workspace, io, async (open) => {
      const all = await loadChannels(open.workspace, open.store, args, await open.surroundings());
      const wanted = args.length > 0 ? all : all.filter(({ serving }) => Object.keys(serving).length > 0);
      return { workspace: open.workspace, channels: wanted };
    });
    if (channels.length === 0)
      throw new Refusal([
        diagnostic("unknown-option", {
          reason:
            'no channel is set to be served; name one, or write to its channel.yaml: serve: { rebuild: "30 2 * * *", zone: Europe/London }',
        }),
      ]);
    if (given.showAddresses) {
      const places = await feedPlaces(workspace, channels);
      for (const { setup } of channels) {
        const files = [...((await publishedOf(workspace, setup.channel))?.files.keys() ?? [])];
        const names = files.length > 0 ? files : setup.definition.layouts.map(({ file }) => file);
        for (const name of names) {
          const address = `http://${host}:${port}/${places.get(setup.channel) ?? ""}/${name}`;
          io.out(
            options.json ? jsonLine({ type: "address", channel: setup.channel, address }) : `${address}\n`,
          );
        }
      }
      return 0;
    }
    const log = logTo(io, given.log ?? "text");
    // Two servers of one workspace would publish over each other.
    return alone(workspace.root, { channel: "feeds", work: "serve" }, io, async (): Promise<ExitCode> => {
      const serving = await serveFeeds(workspace, channels, { host, port }, log, io);
      log.info({ host, port: serving.port, channels: channels.map(({ setup }) => setup.channel) }, "serving");
      await io.untilEnded();
      log.info("ending: what is under way is finished");
      await serving.close();
      log.info("ended");
      return 0;
    });
  },
});
