/** Played channels over HTTP, and the wishes by which a test steers them. */
import type { IncomingMessage, Server } from "node:http";
import type { AddressInfo } from "node:net";
import { setTimeout as pause } from "node:timers/promises";
import { serve, type HttpBindings } from "@hono/node-server";
import { Hono, type Context } from "hono";
import { matched } from "./address.js";
import { liveText, reportText } from "./answers.js";
import type { ChannelData } from "./channel-data.js";
import type { PlayedChannel, PlayedJob } from "./played-channel.js";
import { flat, Unreadable, type SentCell } from "./read-rows.js";
import type { Sandbox } from "./sandbox.js";

/** How a channel can misbehave. */
export const moods = [
  "slow",
  "busy",
  "failing",
  "cut-before",
  "cut-after",
  "doubling",
  "stranger",
  "half",
  "cut-report",
  "second-thoughts",
  "tidies",
  "elsewhere",
  "unreadable",
] as const;

type SandboxEnv = { Bindings: HttpBindings };

const SLOW_MILLISECONDS = 1500;

/** Cuts the line, as a fault of the network would. */
function cut(incoming: IncomingMessage): Response {
  incoming.socket.destroy();
  return new Response(null);
}

const json = (body: unknown, status = 200): Response =>
  new Response(JSON.stringify(body), { status, headers: { "content-type": "application/json" } });

function putAt(path: string, value: unknown): Record<string, unknown> {
  const [name = "", ...rest] = path.split(".");
  return { [name]: rest.length === 0 ? value : putAt(rest.join("."), value) };
}

function actionIn({ exchange }: ChannelData, valueOf: (part: string) => string): string {
  const part = Object.entries(exchange.send.parts ?? {}).find(([, text]) => text.includes("{action}"))?.[0];
  return part === undefined ? "" : valueOf(part);
}

function progressOf({ exchange }: ChannelData, job: PlayedJob): Record<string, unknown> {
  const { progress } = exchange;
  const { done = ["done"], thrown_out: thrownOut = [] } = progress ?? {};
  const [state = "state", percent, because] = [
    progress?.["state"],
    progress?.["percent"],
    progress?.["because"],
  ];
  const share = Math.min(99, Math.round(((Date.now() - job.at) / Math.max(1, job.due - job.at)) * 100));
  if (!job.isDone)
    return { ...putAt(state, "at work"), ...(percent === undefined ? {} : putAt(percent, share)) };
  if (job.isUnreadable)
    return {
      ...putAt(state, thrownOut[0] ?? "unreadable"),
      ...(because === undefined ? {} : putAt(because, job.because)),
    };
  return { ...putAt(state, done[0]), ...(percent === undefined ? {} : putAt(percent, 100)) };
}

/** Answers for one channel below its name. */
async function answer(
  sandbox: Sandbox,
  channel: PlayedChannel,
  path: string,
  context: Context<SandboxEnv>,
): Promise<Response> {
  const { data } = channel;
  const { exchange } = data;
  const { req, env } = context;
  const query = new URL(req.url).searchParams;
  const isAt = (pattern: string | undefined) =>
    pattern === undefined ? undefined : matched(pattern, path, query);
  if (channel.isIn("slow")) await pause(SLOW_MILLISECONDS);
  const shown = exchange.token?.says.replace("{token}", sandbox.wish.token);
  if (exchange.token !== undefined && req.header(exchange.token.header) !== shown)
    return json({ remark: "who are you?" }, 401);
  if (channel.isIn("elsewhere"))
    return new Response(null, { status: 302, headers: { location: "http://127.0.0.1:9/" } });
  const isSending = req.method === "POST" || req.method === "PUT";
  if (isSending) {
    if (channel.isIn("busy"))
      return new Response("come back later", { status: 429, headers: { "retry-after": "1" } });
    if (channel.isIn("failing")) return new Response("something broke here", { status: 500 });
    if (channel.isIn("cut-before")) return cut(env.incoming);
    return sent(sandbox, channel, { isAt, context });
  }
  sandbox.advance();
  const found = isAt(exchange.find?.from);
  if (found !== undefined && exchange.send["as"] !== "drop") {
    const job = channel.findByName(found["file"] ?? "");
    return job === undefined
      ? json({ remark: "no such file" }, 404)
      : json(putAt(exchange.find?.job ?? "job", String(job.number)));
  }
  const jobOf = (facts: Readonly<Record<string, string>>): PlayedJob | undefined =>
    channel.job(Number(facts["job"]));
  const report = isAt(exchange.report);
  if (report !== undefined && data.results !== undefined) {
    const job = jobOf(report);
    if (job?.isDone !== true) return json({ remark: "there is no report" }, 404);
    const text = reportText(job.verdicts, data.results, data);
    if (channel.isIn("cut-report")) {
      const raw = env.outgoing;
      raw.writeHead(200, { "content-length": String(Buffer.byteLength(text)) });
      raw.write(text.slice(0, text.length / 2));
      setTimeout(() => env.incoming.socket.destroy(), 20);
      return new Response(null, { headers: { "x-hono-already-sent": "true" } });
    }
    if (channel.isIn("second-thoughts")) setTimeout(() => channel.thinkAgain(job, 1), 0);
    return new Response(text);
  }
  const progress = isAt(exchange.progress?.from);
  if (progress !== undefined) {
    const job = jobOf(progress);
    return job === undefined ? json({ remark: "no such job" }, 404) : json(progressOf(data, job));
  }
  if (isAt(exchange.live?.["from"]) !== undefined)
    return new Response(liveText(Object.values(channel.state.shown), data));
  const version = isAt(exchange.categories);
  if (version !== undefined) {
    if (version["version"] !== data.version) return json({ remark: "no such version" }, 404);
    const rows = data.categories.map(
      (row) => `${row["code"] ?? ""},${row["parent"] ?? ""},"${(row["name"] ?? "").replaceAll('"', '""')}"`,
    );
    return new Response(`code,parent,name\r\n${rows.join("\r\n")}\r\n`);
  }
  return json({ remark: "nothing lies here" }, 404);
}

interface PlayedSending {
  isAt(pattern: string | undefined): Readonly<Record<string, string>> | undefined;
  readonly context: Context<SandboxEnv>;
}

async function sent(
  sandbox: Sandbox,
  channel: PlayedChannel,
  { isAt, context }: PlayedSending,
): Promise<Response> {
  const { data } = channel;
  const { exchange } = data;
  const { req, env } = context;
  const { send } = exchange;
  const isTrial = isAt(exchange.trial) !== undefined;
  const at = isTrial ? {} : isAt(send["to"]);
  if (at === undefined) return json({ remark: "nothing is taken here" }, 404);
  let [name, action] = [at["file"] ?? "", at["action"] ?? ""];
  let bytes: Buffer;
  if (req.method === "POST") {
    const form = await req.formData();
    const file = form.get(send["file_part"] ?? "file");
    if (!(file instanceof File)) return json({ remark: "there is no file in it" }, 400);
    name = file.name;
    bytes = Buffer.from(await file.arrayBuffer());
    const partOf = (part: string): string => {
      const value = form.get(part);
      return typeof value === "string" ? value : "";
    };
    action = actionIn(data, partOf);
  } else bytes = Buffer.from(await req.arrayBuffer());
  if (isTrial)
    try {
      const verdicts = (await channel.look({ bytes, action })).filter(({ isAccepted }) => !isAccepted);
      return json(
        {
          remark:
            verdicts.length === 0
              ? "all of it would be taken"
              : `${verdicts.length} rows would be turned down`,
          rows: verdicts.slice(0, 5).map(({ reference, message }) => `${reference}: ${message}`),
        },
        verdicts.length === 0 ? 200 : 422,
      );
    } catch (error) {
      if (error instanceof Unreadable) return json({ remark: error.message }, 422);
      throw error;
    }
  const key = req.header(send["key_header"] ?? "x-none") ?? "";
  const known = channel.findByKey(key);
  if (known === undefined && channel.isRepeated(name))
    return json({ remark: "a file of this name was here already" }, 409);
  const job = known ?? (await channel.arrive({ name, bytes, key, action }, Date.now()));
  if (channel.isIn("doubling")) await channel.arrive({ name, bytes, key: "", action }, Date.now());
  sandbox.save();
  if (channel.isIn("cut-after")) return cut(env.incoming);
  return json(putAt(send["job"] ?? "job", String(job.number)), 202);
}

/** What a person does at the sandbox itself: moods, dislikes, changes by hand. */
async function steer(sandbox: Sandbox, context: Context<SandboxEnv>): Promise<Response> {
  const wish = await context.req.json<{
    readonly channel?: string;
    readonly mood?: string;
    /** Dislikes nothing any more. */
    readonly forgives?: boolean;
    readonly times?: number;
    readonly dislikes?: { readonly field: string; readonly word: string };
    readonly reference?: string;
    readonly cells?: Readonly<Record<string, SentCell>> | null;
  }>();
  const channel = sandbox.channels.get(wish.channel ?? "");
  if (channel === undefined) return json({ remark: "no such channel is played" }, 404);
  if (wish.mood !== undefined) channel.wish(wish.mood, wish.times ?? 1);
  if (wish.forgives === true) channel.state.dislikes.length = 0;
  if (wish.dislikes !== undefined) channel.state.dislikes.push(wish.dislikes);
  if (wish.reference !== undefined) channel.byHand(wish.reference, wish.cells ?? undefined);
  sandbox.save();
  return json({ done: true });
}

/** A sandbox at work. */
export interface Listening {
  readonly port: number;
  close(): Promise<void>;
}

/** Opens the sandbox's port, on this machine alone. */
export async function serveSandbox(
  sandbox: Sandbox,
  port: number,
  /** Is told when somebody has steered it. */
  steered: () => void = () => undefined,
): Promise<Listening> {
  const app = new Hono<SandboxEnv>();
  app.post("/sandbox", async (context) => {
    const answer = await steer(sandbox, context);
    steered();
    return answer;
  });
  app.get("/sandbox", () => {
    sandbox.advance();
    return json(
      Object.fromEntries(
        [...sandbox.channels].map(([name, { state }]) => [
          name,
          {
            shown: Object.values(state.shown).filter(({ isGroup }) => !isGroup).length,
            jobs: state.jobs.length,
            files: state.jobs.map((job) => ({ name: job.name, key: job.key, sha256: job.sha256 })),
          },
        ]),
      ),
    );
  });
  app.get("/sandbox/shown/:channel", (context) => {
    sandbox.advance();
    const channel = sandbox.channels.get(context.req.param("channel"));
    if (channel === undefined) return json({}, 404);
    const shown = Object.entries(channel.state.shown).map(([key, { cells, group, isGroup }]) => [
      key,
      {
        group,
        isGroup,
        cells: Object.fromEntries(Object.entries(cells).map(([name, cell]) => [name, flat(cell)])),
      },
    ]);
    return json(Object.fromEntries(shown));
  });
  app.all("/:channel/*", async (context) => {
    const name = context.req.param("channel");
    const channel = sandbox.channels.get(name);
    if (channel === undefined) return json({ remark: "no such channel is played" }, 404);
    const path = new URL(context.req.url).pathname.slice(name.length + 1);
    return answer(sandbox, channel, path, context);
  });
  const server = await new Promise<Server>((resolve, reject) => {
    const own = serve({ fetch: app.fetch, port, hostname: "127.0.0.1" }, () => resolve(own)) as Server;
    own.once("error", reject);
  });
  return {
    port: (server.address() as AddressInfo).port,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}
