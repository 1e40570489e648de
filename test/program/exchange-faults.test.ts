import { execFileSync } from "node:child_process";
import { chmodSync, readdirSync, readFileSync, statSync } from "node:fs";
import { createServer as createTls } from "node:https";
import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { smallShop } from "../kit/demo-shop.js";
import { isLong, runs } from "../kit/runs.js";
import { killedAt } from "../kit/killed.js";
import {
  copyOf,
  jsonLines,
  lexicant,
  lexicantBeside,
  lexicantProcess,
  read,
  temporaryFolder,
  write,
  type Ran,
} from "../kit/run.js";
import {
  exchangeEnvironment,
  reach,
  reaching,
  startSandbox,
  TOKEN,
  type RunningSandbox,
} from "../kit/sandbox.js";

const outputs: string[] = [];

const run = (shop: string, args: readonly string[], env: Readonly<Record<string, string>> = {}): Ran => {
  const ran = lexicant(shop, args, { env: { ...exchangeEnvironment, ...env } });
  outputs.push(ran.out, ran.err);
  return ran;
};

const channels = ["merrowgate", "gavelstead", "fjordhandel", "chatterquay", "lanternlist"] as const;
/** Few enough for a file each, so that a fault meets just one. */
const few = 'select: sku = "BC-1402" or sku = "BC-1403"';
const small = smallShop();
for (const channel of channels) {
  const file = `channels/${channel}/channel.yaml`;
  write(small, file, read(small, file).replace(/^select:.*$/m, few));
}
lexicant(small, ["build"]);

let sandbox: RunningSandbox;
beforeAll(async () => {
  sandbox = await startSandbox();
});
afterAll(async () => {
  await sandbox.stop();
  // Whatever any of these tests did, in whatever order: it showed no token.
  expect(outputs.join("\n")).not.toContain(TOKEN);
});

/** Files that a channel got since, by what tells them apart. */
const filesOf = (from: RunningSandbox) => async (channel: string, work: () => void | Promise<void>) => {
  const before = (await from.state())[channel]?.files.length ?? 0;
  await work();
  return ((await from.state())[channel]?.files ?? []).slice(before);
};

const newFiles = (channel: string, work: () => void | Promise<void>) => filesOf(sandbox)(channel, work);

describe("a channel that misbehaves", () => {
  it.each([
    ["slow", "merrowgate", 1],
    ["busy", "merrowgate", 1],
    ["failing", "merrowgate", 2],
    ["failing", "chatterquay", 2],
    ["cut-before", "merrowgate", 1],
    ["cut-before", "gavelstead", 1],
    ["cut-before", "lanternlist", 1],
    ["cut-after", "merrowgate", 1],
    ["cut-after", "gavelstead", 1],
    ["cut-after", "chatterquay", 1],
  ])(
    "when it is %s (%s, %i times), then each file arrives once, and all is accepted",
    async (mood, channel, times) => {
      const sandbox = await startSandbox("--channel", channel);
      const shop = reaching(small, sandbox, [channel]);
      // Each try of this test has other bytes, and so another file.
      run(shop, ["set", "BC-1402", "--channel", channel, `name=Soft brush ${mood} ${times}`]);
      run(shop, ["build", channel]);
      await sandbox.say({ channel, mood, times });
      const files = await filesOf(sandbox)(channel, () => {
        const { exit, out, err } = run(shop, ["submit", channel, "--wait", "--minutes", "1"]);
        expect([exit, err]).toEqual([0, expect.any(String)]);
        expect(out).toContain("All is done");
      });
      const [job] = jsonLines(run(shop, ["jobs", channel, "--json"]).out);
      expect(files).toHaveLength((job?.["files"] as unknown[]).length);
      expect(new Set(files.map(({ sha256 }) => sha256)).size).toBe(files.length);
      await sandbox.stop();
    },
  );

  it("when it takes one file twice, then each row counts once", async () => {
    const shop = reaching(small, sandbox, ["chatterquay"]);
    await sandbox.say({ channel: "chatterquay", mood: "doubling" });
    expect(run(shop, ["submit", "chatterquay", "--wait"]).out).toContain("2 accepted, 0 refused");
  });

  it("when it changes texts by itself, then reconcile does not take that for a difference", async () => {
    const shop = reaching(small, sandbox, ["merrowgate", "chatterquay", "lanternlist"]);
    for (const channel of ["merrowgate", "chatterquay", "lanternlist"]) {
      const own = await startSandbox("--channel", channel);
      write(
        shop,
        `channels/${channel}/channel.yaml`,
        read(shop, `channels/${channel}/channel.yaml`).replace(
          /address: .*/,
          `address: ${own.addresses.get(channel) ?? ""}`,
        ),
      );
      await own.say({ channel, mood: "tidies", times: 9 });
      run(shop, ["submit", channel, "--wait"]);
      const shown = Object.values(await own.shown(channel));
      expect(JSON.stringify(shown)).toMatch(/ {2}| – /);
      expect(run(shop, ["reconcile", channel]).out).toMatch(/shows 2 listings: 2 as they should be\n$/);
      await own.stop();
    }
  });

  it("when it fails again and again, then nothing is lost, and the next submit goes on", async () => {
    const shop = reaching(small, sandbox, ["merrowgate"]);
    run(shop, ["set", "BC-1402", "--channel", "merrowgate", "name=Soft brush again and again"]);
    run(shop, ["build", "merrowgate"]);
    await sandbox.say({ channel: "merrowgate", mood: "busy", times: 100 });
    const ended = run(shop, ["submit", "merrowgate"], { LEXICANT_FIRST_WAIT_MS: "1" });
    await sandbox.say({ channel: "merrowgate", mood: "busy", times: 0 });
    expect(ended.exit).toBe(3);
    expect(ended.out).toContain("Nothing is lost: lexicant submit merrowgate goes on where this ended.");
    expect(run(shop, ["jobs"]).out).toContain("broken off; submit goes on");
    const files = await newFiles("merrowgate", () => {
      expect(run(shop, ["submit", "merrowgate", "--dry-run"]).out).toContain("job 1");
      expect(run(shop, ["submit", "merrowgate", "--wait"]).out).toContain("2 accepted, 0 refused");
    });
    expect(files.length).toBeGreaterThan(0);
  }, 60_000);
});

describe("addresses and secrets", () => {
  const reaching2 = (channel: string, address: string, more = ""): string => {
    const shop = copyOf(small);
    reach(shop, channel, address, more);
    return shop;
  };

  it("when the token is wrong, missing, or open to others, then nothing goes out", () => {
    const shop = reaching(small, sandbox, ["merrowgate"]);
    const wrong = run(shop, ["submit", "merrowgate"], { SHOP_TOKEN: "another-token-5521" });
    expect([wrong.exit, wrong.out]).toEqual([3, expect.stringContaining("does not accept the token (401)")]);
    expect(wrong.out + wrong.err).not.toContain("another-token-5521");
    // It says nothing of the goods: no row counts as refused, and the same job goes on.
    expect(jsonLines(run(shop, ["jobs", "--json"]).out)[0]).toMatchObject({
      refused: 0,
      files: [{ state: "waiting" }],
    });
    expect(run(shop, ["submit", "merrowgate"], { SHOP_TOKEN: "" })).toMatchObject({
      exit: 2,
      err: expect.stringContaining("has no SHOP_TOKEN") as string,
    });
    const file = "channels/merrowgate/channel.yaml";
    write(shop, file, read(shop, file).replace("token_from: SHOP_TOKEN", "token_file: token.txt"));
    const secret = write(shop, "token.txt", `${TOKEN}\n`);
    chmodSync(secret, 0o644);
    expect(run(shop, ["submit", "merrowgate"]).err).toContain("chmod 600");
    chmodSync(secret, 0o600);
    run(shop, ["set", "BC-1402", "--channel", "merrowgate", "name=By a file's token"]);
    run(shop, ["build", "merrowgate"]);
    expect(run(shop, ["submit", "merrowgate"]).exit).toBe(0);
  });

  it("when an address is private, leads on to another, or is none, then it is refused before a secret is shown", async () => {
    const address = sandbox.addresses.get("merrowgate") ?? "";
    const shop = reaching2("merrowgate", address);
    const file = "channels/merrowgate/channel.yaml";
    write(shop, file, read(shop, file).replace("  private_address: yes\n", ""));
    const files = await newFiles("merrowgate", () => {
      const hidden = run(shop, ["submit", "merrowgate"]);
      expect(hidden.out + hidden.err).toContain(
        "127.0.0.1 is a private address; where that is meant, set exchange.private_address: yes",
      );
      write(shop, file, read(shop, file).replace("127.0.0.1", "localhost"));
      const named = run(shop, ["submit", "merrowgate"]);
      expect(named.out + named.err).toContain("localhost stands for the private address");
    });
    expect(files).toEqual([]);
    const on = reaching(small, sandbox, ["merrowgate"]);
    await sandbox.say({ channel: "merrowgate", mood: "elsewhere" });
    expect(run(on, ["submit", "merrowgate"]).out).toContain(
      "sends us on to http://127.0.0.1:9/, and that is not followed",
    );
    const bad = reaching2("gavelstead", "ftp://x.example/");
    expect(run(bad, ["submit", "gavelstead"])).toMatchObject({ exit: 2 });
    expect(run(reaching2("gavelstead", "./drop"), ["submit", "gavelstead"]).err).toContain(
      "takes files over HTTP",
    );
  });

  it("when nobody answers, then it is told in words, and nothing is lost", () => {
    const shop = reaching2("merrowgate", "http://127.0.0.1:9/merrowgate");
    const { exit, out } = run(shop, ["submit", "merrowgate"]);
    expect([exit, out]).toEqual([3, expect.stringContaining("the host refuses the connection")]);
  });

  it("when a certificate is not known, then nothing is sent; named, it is trusted", async () => {
    const folder = temporaryFolder();
    execFileSync(
      "openssl",
      [
        "req",
        "-x509",
        "-newkey",
        "ec",
        "-pkeyopt",
        "ec_paramgen_curve:prime256v1",
        "-nodes",
        "-days",
        "2",
        "-subj",
        "/CN=localhost",
        "-addext",
        "subjectAltName=IP:127.0.0.1",
        "-keyout",
        join(folder, "key.pem"),
        "-out",
        join(folder, "cert.pem"),
      ],
      { stdio: "ignore" },
    );
    const got: string[] = [];
    const answer = (request: IncomingMessage, response: ServerResponse): void => {
      got.push(String(request.headers["authorization"]));
      request.resume().on("end", () => response.end(JSON.stringify({ receipt: "77" })));
    };
    const server = createTls(
      { key: readFileSync(join(folder, "key.pem")), cert: readFileSync(join(folder, "cert.pem")) },
      answer,
    );
    await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
    const address = `https://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const shop = reaching2("merrowgate", address, `  certificate_file: ${join(folder, "cert.pem")}\n`);
    const file = "channels/merrowgate/channel.yaml";
    const text = read(shop, file);
    write(shop, file, text.replace(/ {2}certificate_file.*\n/, ""));
    const beside = async (...args: readonly string[]): Promise<Ran> => {
      const ran = await lexicantBeside(shop, args, { SHOP_TOKEN: TOKEN });
      outputs.push(ran.out, ran.err);
      return ran;
    };
    const unknown = await beside("submit", "merrowgate");
    expect(unknown.out + unknown.err).toContain("its certificate is not known here");
    expect(got).toEqual([]);
    write(shop, file, text);
    lexicant(shop, ["build", "merrowgate"]);
    lexicant(shop, ["set", "BC-1402", "--channel", "merrowgate", "name=Known now"]);
    lexicant(shop, ["build", "merrowgate"]);
    const known = await beside("submit", "merrowgate");
    expect([known.exit, known.out]).toEqual([0, expect.stringContaining("job reference 77")]);
    expect(got).toContain(`Bearer ${TOKEN}`);
    server.close();
  });

  it("when a channel's answer holds the token, steers the terminal, or has no end, then none of it is shown", async () => {
    let big = false;
    const server = createServer((request, response) => {
      request.resume().on("end", () => {
        response.statusCode = 422;
        response.end(
          big
            ? "x".repeat(5_000_000)
            : `no: ${String(request.headers["authorization"])} \u001b[31m\u0007red\u202e`,
        );
      });
    });
    await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
    const shop = reaching2("merrowgate", `http://127.0.0.1:${(server.address() as AddressInfo).port}`);
    const token = { SHOP_TOKEN: TOKEN };
    const { exit, out, err } = await lexicantBeside(shop, ["submit", "merrowgate"], token);
    outputs.push(out, err);
    expect(exit).toBe(1);
    expect(out).toMatch(/answers 422: no: Bearer … +\[31m red/);
    // eslint-disable-next-line no-control-regex
    expect(out).not.toMatch(/[\u0007\u001b\u202e]/);
    big = true;
    lexicant(shop, ["set", "BC-1402", "--channel", "merrowgate", "name=Once more"]);
    lexicant(shop, ["build", "merrowgate"]);
    expect((await lexicantBeside(shop, ["submit", "merrowgate"], token)).out.length).toBeLessThan(3000);
    server.close();
  });
});

describe("the disk is full, or the process is killed", () => {
  it("when there is no room for a report, then it is told, nothing of it is noted, and it is fetched the next time", async () => {
    const sandbox = await startSandbox("--channel", "chatterquay");
    const shop = reaching(smallShop(), sandbox, ["chatterquay"]);
    lexicant(shop, ["build", "chatterquay"]);
    run(shop, ["submit", "chatterquay"]);
    await new Promise((done) => setTimeout(done, 700));
    // 8 blocks of 1024 bytes: room for the store's own log is taken from what stands there already.
    const full = lexicantProcess(shop, ["results", "chatterquay"], {
      env: exchangeEnvironment,
      shell: 'trap "" XFSZ; ulimit -f 8; "$0" "$@"',
    });
    outputs.push(full.out, full.err);
    expect(full.exit).toBe(3);
    expect(jsonLines(run(shop, ["jobs", "--json"]).out)[0]).toMatchObject({ accepted: 0, refused: 0 });
    expect(run(shop, ["results", "chatterquay"]).out).toContain("0 refused");
  });

  it("when submit is killed before its steps and called again, then every file arrives just once", async () => {
    const wanted = runs(4, 200);
    let [kills, mark] = [0, 0];
    while (kills < wanted) {
      // Names that were used once are used: each round has channels of its own.
      const own = await startSandbox();
      const since = filesOf(own);
      for (const channel of isLong ? channels : ["chatterquay"]) {
        const shop = reaching(small, own, [channel]);
        for (let step = 1 + (mark % 4), isOver = false; !isOver && kills < wanted; step += isLong ? 4 : 9) {
          mark++;
          run(shop, ["set", "BC-1402", "--channel", channel, `name=Soft brush ${channel} ${mark}`]);
          run(shop, ["set", "BC-1403", "--channel", channel, `mpn=X-${mark}`]);
          run(shop, ["build", channel]);
          const files = await since(channel, async () => {
            isOver = !killedAt(shop, ["submit", channel], step, { SHOP_TOKEN: TOKEN });
            if (!isOver) kills++;
            // Whatever was whole before the kill is not sent once more.
            const again = run(shop, ["submit", channel]);
            expect(again.exit === 0 || again.err.includes("went to"), again.out + again.err).toBe(true);
            await new Promise((done) => setTimeout(done, 120));
            expect(run(shop, ["results", channel, "--wait"]).out).toContain("All is done");
          });
          const where = `${channel}, step ${step}`;
          expect(new Set(files.map(({ name, sha256 }) => `${name} ${sha256}`)).size, where).toBe(
            files.length,
          );
          const job = jsonLines(run(shop, ["jobs", channel, "--json"]).out)[0];
          expect(files, where).toHaveLength((job?.["files"] as unknown[]).length);
        }
      }
      await own.stop();
    }
    if (isLong) process.stderr.write(`killed ${kills} times: nothing twice, nothing lost\n`);
  }, 3_600_000);
});

describe("secrets", () => {
  it("when a sending was done, then no token stands in what was said and kept", () => {
    outputs.length = 0;
    const shop = reaching(small, sandbox, ["merrowgate"]);
    run(shop, ["set", "BC-1402", "--channel", "merrowgate", "name=Looked through"]);
    run(shop, ["build", "merrowgate"]);
    run(shop, ["submit", "merrowgate", "--wait"]);
    run(shop, ["serve", "lanternlist", "--show-addresses"]);
    expect(outputs).toHaveLength(8);
    expect(outputs.join("\n")).not.toContain(TOKEN);
    const walk = (folder: string): readonly string[] =>
      readdirSync(folder).flatMap((name) => {
        const path = join(folder, name);
        return statSync(path).isDirectory() ? walk(path) : [path];
      });
    for (const file of walk(shop)) expect(readFileSync(file).includes(TOKEN), file).toBe(false);
    const place = join(shop, ".lexicant", "served", "lanternlist", "secret");
    expect(statSync(place).mode & 0o077).toBe(0);
  });
});
