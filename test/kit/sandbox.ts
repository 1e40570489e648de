import { appendFileSync } from "node:fs";
import { join } from "node:path";
import { programThread, type Going, type ProgramThread } from "./program-thread.js";
import { copyOf, jsonLines, lexicant, temporaryFolder, type Ran } from "./run.js";

let thread: ProgramThread | undefined;
const running = new Set<Going>();

/** Ends every sandbox that a test file has left running. */
export const stopSandboxes = async (): Promise<void> => {
  await Promise.all([...running].map((one) => one.end()));
  running.clear();
};

export const TOKEN = "token-of-the-shop-7716";

export interface RunningSandbox {
  /** Where each channel is reached. */
  readonly addresses: ReadonlyMap<string, string>;
  readonly base: string;
  /** What it said when it began. */
  readonly lines: readonly Readonly<Record<string, unknown>>[];
  /** Steers it: moods, dislikes, changes by hand. */
  say(wish: Readonly<Record<string, unknown>>): Promise<void>;
  /** What it was sent, by channel. */
  state(): Promise<
    Readonly<
      Record<
        string,
        {
          readonly shown: number;
          readonly jobs: number;
          readonly files: readonly { name: string; key: string; sha256: string }[];
        }
      >
    >
  >;
  /** What a channel shows, by reference. */
  shown(channel: string): Promise<
    Readonly<
      Record<
        string,
        {
          readonly group: string;
          readonly isGroup: boolean;
          readonly cells: Readonly<Record<string, string>>;
        }
      >
    >
  >;
  stop(): Promise<void>;
}

/** Starts the built program's sandbox in a thread of its own, beside others that run there. */
export const startSandbox = async (...args: readonly string[]): Promise<RunningSandbox> => {
  thread ??= programThread({ seconds: 60 });
  const line = ["sandbox", "--json", "--port", "0", "--pace", "20", "--quiet", ...args];
  const going = thread.start(temporaryFolder(), line, { LEXICANT_SANDBOX_TOKEN: TOKEN });
  running.add(going);
  const addresses = new Map<string, string>();
  const lines: Record<string, unknown>[] = [];
  await new Promise<void>((resolve, reject) => {
    going.ended.then((exit) => reject(new Error(`the sandbox ended with ${exit}`)), reject);
    going.heard((text) => {
      for (const said of jsonLines(text)) {
        lines.push(said);
        addresses.set(String(said["channel"]), String(said["address"]));
      }
      // It says all of them in one go.
      setTimeout(resolve, 5);
    });
  });
  const [first = ""] = [...addresses.values()].filter((address) => address.startsWith("http"));
  const base = first.slice(0, first.lastIndexOf("/"));
  // A connection that is kept is closed while this thread waits for a command.
  const headers = { connection: "close" };
  const get = async (path: string): Promise<never> =>
    (await (await fetch(`${base}${path}`, { headers })).json()) as never;
  return {
    addresses,
    base,
    lines,
    async say(wish) {
      const answer = await fetch(`${base}/sandbox`, { method: "POST", headers, body: JSON.stringify(wish) });
      if (!answer.ok) throw new Error(await answer.text());
    },
    state: () => get("/sandbox"),
    shown: (channel) => get(`/sandbox/shown/${channel}`),
    async stop() {
      running.delete(going);
      await going.end();
    },
  };
};

/** Lets a workspace's channel reach a sandbox, with further lines of its exchange. */
export const reach = (shop: string, channel: string, address: string, more = ""): void =>
  appendFileSync(
    join(shop, "channels", channel, "channel.yaml"),
    `\nexchange:\n  address: ${address}\n${address.startsWith("http") ? "  token_from: SHOP_TOKEN\n  private_address: yes\n" : ""}${more}`,
  );

/** What a command needs to reach a sandbox, quick to try again. */
export const exchangeEnvironment = { SHOP_TOKEN: TOKEN, LEXICANT_FIRST_WAIT_MS: "5" };

/** Drives the program with what it needs to reach a sandbox. */
export const exchanging = (shop: string, ...args: readonly string[]): Ran =>
  lexicant(shop, args, { env: exchangeEnvironment });

/** The same for the objects of its answer. */
export const exchangingJson = (
  shop: string,
  ...args: readonly string[]
): readonly Record<string, unknown>[] => jsonLines(exchanging(shop, ...args, "--json").out);

/** A copy of a workspace whose channels reach a sandbox. */
export const reaching = (shop: string, sandbox: RunningSandbox, channels: readonly string[]): string => {
  const copy = copyOf(shop);
  for (const channel of channels) reach(copy, channel, sandbox.addresses.get(channel) ?? "");
  return copy;
};
