/** Played channels that take files from folders. */
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { dirname, join } from "node:path";
import { liveText, reportText } from "./answers.js";
import type { PlayedChannel } from "./played-channel.js";
import type { Sandbox } from "./sandbox.js";

const TICK_MILLISECONDS = 50;

const fill = (pattern: string, file: string): string =>
  pattern.replace("{file}", file).replace("{job}", file);

function put(path: string, text: string): void {
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(`${path}.coming`, text);
  renameSync(`${path}.coming`, path);
}

/** Takes what was dropped, answers what was read. Says whether anything moved. */
async function tick(channel: PlayedChannel, folder: string): Promise<boolean> {
  const { data, state } = channel;
  const { exchange } = data;
  const into = join(folder, dirname(exchange.send["to"] ?? "{file}"));
  mkdirSync(into, { recursive: true });
  let hasMoved = false;
  if (exchange.find !== undefined)
    for (const name of readdirSync(into).sort()) {
      const path = join(into, name);
      if (name.startsWith(".") || !statSync(path).isFile()) continue;
      const bytes = readFileSync(path);
      const taken = join(folder, fill(exchange.find.from, name));
      mkdirSync(dirname(taken), { recursive: true });
      renameSync(path, taken);
      await channel.arrive({ name, bytes, key: "", action: "" }, Date.now());
      hasMoved = true;
    }
  if (channel.advance(Date.now())) hasMoved = true;
  if (!hasMoved) return false;
  for (const job of state.jobs) {
    if (!job.isDone || exchange.report === undefined || data.results === undefined) continue;
    const path = join(folder, fill(exchange.report, job.name));
    const text = job.isUnreadable
      ? reportText(
          [
            {
              reference: "",
              line: 0,
              isAccepted: false,
              id: "",
              code: "100",
              field: "",
              message: job.because,
            },
          ],
          data.results,
          data,
        )
      : reportText(job.verdicts, data.results, data);
    if (!existsSync(path)) put(path, text);
  }
  const live = exchange.live?.["from"];
  if (live !== undefined) put(join(folder, live), liveText(Object.values(state.shown), data));
  return true;
}

/** Plays those channels that take files from folders, each in one of its own; ends when it is told to. */
export function serveFolder(sandbox: Sandbox, folder: string): { close(): Promise<void>; refresh(): void } {
  const dropped = [...sandbox.channels].filter(([, { data }]) => data.exchange.send["as"] === "drop");
  let [isOver, running] = [false, Promise.resolve()];
  const refresh = (): void => {
    for (const [name, { data, state }] of dropped) {
      const live = data.exchange.live?.["from"];
      if (live !== undefined) put(join(folder, name, live), liveText(Object.values(state.shown), data));
    }
  };
  const run = async (): Promise<void> => {
    for (const [name, channel] of dropped) if (await tick(channel, join(folder, name))) sandbox.save();
  };
  const timer = setInterval(() => {
    if (isOver) return;
    running = running.then(run).catch(() => undefined);
  }, TICK_MILLISECONDS);
  return {
    refresh,
    async close() {
      isOver = true;
      clearInterval(timer);
      await running;
    },
  };
}
