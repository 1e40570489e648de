import { spawn, type ChildProcess } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { gunzipSync } from "node:zlib";
import { afterEach, describe, expect, it } from "vitest";
import { smallShop } from "../kit/demo-shop.js";
import { environment, mainFile } from "../kit/process.js";
import { copyOf, lexicant, read, write } from "../kit/run.js";

const built = smallShop();

const serving: ChildProcess[] = [];
afterEach(() => {
  for (const child of serving.splice(0)) child.kill("SIGKILL");
});

interface Served {
  readonly base: string;
  readonly child: ChildProcess;
  log(): string;
  ended(): Promise<number | null>;
}

const settings = (shop: string, channel: string, text: string): string =>
  write(
    shop,
    `channels/${channel}/channel.yaml`,
    `${read(shop, `channels/${channel}/channel.yaml`)}\nserve:\n${text}`,
  );

const until = async (holds: () => boolean | Promise<boolean>, milliseconds = 20_000): Promise<void> => {
  const begun = performance.now();
  while (!(await holds())) {
    if (performance.now() - begun > milliseconds) throw new Error("it does not come about");
    await new Promise((done) => setTimeout(done, 50));
  }
};

const start = (shop: string, ...args: readonly string[]): Promise<Served> => startWith({}, shop, ...args);

const startWith = async (
  env: Readonly<Record<string, string>>,
  shop: string,
  ...args: readonly string[]
): Promise<Served> => {
  const child = spawn(process.execPath, [mainFile, "serve", "--port", "0", "--log", "json", ...args], {
    cwd: shop,
    env: environment(env),
    stdio: ["ignore", "ignore", "pipe"],
  });
  serving.push(child);
  let log = "";
  child.stderr.on("data", (chunk: Buffer) => (log += chunk.toString()));
  await until(() => log.includes('"msg":"serving"') || child.exitCode !== null);
  const line = log.split("\n").find((one) => one.includes('"msg":"serving"')) ?? "{}";
  const { port } = JSON.parse(line) as { port: number };
  return {
    base: `http://127.0.0.1:${port}`,
    child,
    log: () => log,
    ended: () =>
      new Promise((done) => (child.exitCode !== null ? done(child.exitCode) : child.once("exit", done))),
  };
};

const close = { connection: "close" };

const get = (
  url: string,
  headers: Readonly<Record<string, string>> = {},
  method = "GET",
): Promise<Response> =>
  fetch(url, { method, headers: { ...close, "accept-encoding": "identity", ...headers } });

describe("feeds at addresses of their own", () => {
  it("when a feed is asked for, then whole, in part, packed, or not at all where it is known; and nothing else", async () => {
    const shop = copyOf(built);
    settings(shop, "lanternlist", "  least_share: 50\n");
    const { base, child, log, ended } = await start(shop, "lanternlist");
    await until(async () => (await get(`${base}/health`)).status === 200, 60_000);
    const [address = ""] = lexicant(shop, ["serve", "lanternlist", "--show-addresses"]).out.split("\n");
    const path = new URL(address).pathname;
    const secret = path.split("/")[1] ?? "";
    expect(secret.length).toBeGreaterThan(30);
    const url = base + path;
    const bytes = readFileSync(join(shop, "out/lanternlist/lanternlist.xml"));
    const whole = await get(url);
    expect([whole.status, whole.headers.get("content-type")]).toEqual([
      200,
      "application/xml; charset=utf-8",
    ]);
    expect(Buffer.from(await whole.arrayBuffer()).equals(bytes)).toBe(true);
    const [etag = "", modified = ""] = [
      whole.headers.get("etag") ?? "",
      whole.headers.get("last-modified") ?? "",
    ];
    for (const headers of [
      { "if-none-match": etag },
      { "if-none-match": `"x", W/${etag}` },
      { "if-none-match": "*" },
      { "if-modified-since": modified },
    ])
      expect((await get(url, headers as Record<string, string>)).status).toBe(304);
    for (const headers of [
      { "if-none-match": '"other"', "if-modified-since": modified },
      { "if-modified-since": "Thu, 01 Jan 2015 00:00:00 GMT" },
    ])
      expect((await get(url, headers)).status).toBe(200);
    const head = await get(url, {}, "HEAD");
    expect([head.status, head.headers.get("content-length"), await head.text()]).toEqual([
      200,
      String(bytes.length),
      "",
    ]);
    for (const [range, from, to] of [
      ["bytes=0-99", 0, 100],
      ["bytes=100-", 100, bytes.length],
      ["bytes=-50", bytes.length - 50, bytes.length],
      [`bytes=10-${bytes.length + 500}`, 10, bytes.length],
    ] as const) {
      const part = await get(url, { range });
      expect([part.status, part.headers.get("content-range")]).toEqual([
        206,
        `bytes ${from}-${to - 1}/${bytes.length}`,
      ]);
      expect(Buffer.from(await part.arrayBuffer()).equals(bytes.subarray(from, to))).toBe(true);
    }
    expect((await get(url, { range: `bytes=${bytes.length}-` })).status).toBe(416);
    expect((await get(url, { range: "bytes=0-9", "if-range": '"other"' })).status).toBe(200);
    expect((await get(url, { range: "bytes=0-9", "if-range": etag })).status).toBe(206);
    const raw = await new Promise<{ encoding: string | undefined; body: Buffer }>((done, failed) => {
      void import("node:http").then(({ get: ask }) =>
        ask(url, { headers: { "accept-encoding": "br;q=0.5, gzip", ...close } }, (response) => {
          const chunks: Buffer[] = [];
          response.on("data", (chunk: Buffer) => chunks.push(chunk));
          response.on("end", () =>
            done({ encoding: response.headers["content-encoding"], body: Buffer.concat(chunks) }),
          );
        }).on("error", failed),
      );
    });
    expect(raw.encoding).toBe("gzip");
    expect(gunzipSync(raw.body).equals(bytes)).toBe(true);
    for (const other of [
      "/",
      "/lanternlist/lanternlist.xml",
      `/${secret}/`,
      `/${secret}/published.json`,
      `/${secret}/secret`,
      `/${secret}/..%2f..%2fstore.db`,
      `/${secret}x/lanternlist.xml`,
      `/${secret}/a/lanternlist.xml`,
      "/%ff",
    ])
      expect((await get(base + other)).status, other).toBe(404);
    expect((await get(url, {}, "POST")).status).toBe(405);
    expect(log()).toContain('"status":206');
    expect(log()).not.toContain(secret);
    child.kill("SIGTERM");
    expect(await ended()).toBe(0);
    expect(log()).toContain('"msg":"ended"');
  }, 90_000);

  it("when the clock says so or something changes, then it is rebuilt; what is suspiciously small leaves the last good one", async () => {
    const shop = copyOf(built);
    settings(
      shop,
      "chatterquay",
      '  rebuild: "*/2 * * * * *"\n  zone: Europe/London\n  secret_path: no\n  on_change: yes\n  least_share: 80\n',
    );
    const { base, log } = await start(shop, "chatterquay");
    const url = `${base}/chatterquay/chatterquay.csv`;
    await until(async () => (await get(url)).status === 200, 60_000);
    const before = await (await get(url)).text();
    await until(() => log().includes('"why":"its time has come"'), 30_000);
    lexicant(shop, ["set", "BC-1402", "price=77.70 GBP"]);
    await until(async () => (await (await get(url)).text()).includes("77.70 GBP"), 60_000);
    expect(before).not.toContain("77.70");
    const file = "channels/chatterquay/channel.yaml";
    const text = read(shop, file);
    write(shop, file, text.replace(/^select:.*$/m, 'select: sku = "BC-1402"'));
    await until(
      () =>
        log().includes("the feed of chatterquay stays as it was: it has 1 listings and the one before 47"),
      60_000,
    );
    expect((await (await get(url)).text()).split("\n").length).toBeGreaterThan(40);
    expect((await get(`${base}/health`)).status).toBe(503);
    write(shop, file, "definition: [broken");
    await until(() => /stays as it was: (?!it has)/.test(log()), 60_000);
    expect((await get(url)).status).toBe(200);
  }, 240_000);

  it("when a feed wants a token, then nobody gets it without; and two servers of one workspace are one too many", async () => {
    const shop = copyOf(built);
    settings(shop, "chatterquay", "  secret_path: no\n  token_from: FEED_TOKEN\n  fetched_within: 0.0001\n");
    expect(lexicant(shop, ["serve", "--port", "0"]).err).toContain("has no FEED_TOKEN");
    const { base, log } = await startWith({ FEED_TOKEN: "feed-token-99812" }, shop, "chatterquay");
    const url = `${base}/chatterquay/chatterquay.csv`;
    const allowed = { authorization: "Bearer feed-token-99812" };
    await until(async () => (await get(url, allowed)).status === 200, 60_000);
    expect((await get(url)).status).toBe(404);
    expect((await get(url, { authorization: "Bearer other" })).status).toBe(404);
    await until(() => log().includes("nobody has fetched the feed for 0.0001 hours"));
    expect(log()).not.toContain("feed-token-99812");
    const second = lexicant(shop, ["serve", "chatterquay", "--port", "0"], {
      env: { FEED_TOKEN: "x-token-1" },
    });
    expect(second).toMatchObject({ exit: 3, err: expect.stringContaining("at work") as string });
    expect(lexicant(copyOf(built), ["serve"]).err).toContain("no channel is set to be served");
    const wrong = copyOf(built);
    settings(wrong, "chatterquay", '  rebuild: "61 * * * *"\n');
    expect(lexicant(wrong, ["serve"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("serve.rebuild") as string,
    });
  }, 90_000);
});
