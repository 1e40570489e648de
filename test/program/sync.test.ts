import { spawn } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { simpleParser, type ParsedMail } from "mailparser";
import { SMTPServer } from "smtp-server";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { smallShop } from "../kit/demo-shop.js";
import { environment, mainFile } from "../kit/process.js";
import { copyOf, jsonLines, lexicant, lexicantBeside, read, write, type Ran } from "../kit/run.js";
import {
  exchangeEnvironment,
  reaching,
  startSandbox,
  type RunningSandbox,
  exchanging as run,
} from "../kit/sandbox.js";

const logOf = ({ err }: Ran): readonly Record<string, unknown>[] => jsonLines(err);

const built = smallShop();
let sandbox: RunningSandbox;
let synced: string;
beforeAll(async () => {
  sandbox = await startSandbox();
  synced = reaching(built, sandbox, ["merrowgate", "lanternlist"]);
});
afterAll(() => sandbox.stop());

describe("the whole round, for a clock", () => {
  it("when it is called the first time, then all goes out and comes back; called again, nothing does", async () => {
    const first = run(synced, "sync", "merrowgate");
    expect(first).toMatchObject({ exit: 0, out: "" });
    const log = logOf(first);
    expect(
      log.every(
        ({ time, level, msg, channel }) =>
          typeof time === "string" &&
          typeof level === "number" &&
          typeof msg === "string" &&
          channel === "merrowgate",
      ),
    ).toBe(true);
    expect(log.map(({ msg }) => msg)).toEqual(
      expect.arrayContaining([
        "sync begins",
        "import: nothing new",
        "checked",
        "built",
        "results",
        "all was accepted",
      ]),
    );
    expect((await sandbox.state())["merrowgate"]?.shown).toBe(37);
    const again = run(synced, "sync", "merrowgate", "--json");
    expect([again.exit, JSON.parse(again.out)]).toEqual([
      0,
      { type: "sync", channel: "merrowgate", exit: 0, says: "the channel has all as it is" },
    ]);
  });

  it("when a file comes, then it is read once, and just what it changed goes out", async () => {
    const stock = read(synced, "data/stock-2026-11-24.csv");
    write(synced, "data/stock-2026-11-28.csv", stock.replace(/^(BC-1402;[^;]*;[^;]*)$/m, "$1"));
    write(synced, "sources/stock.yaml", `${read(synced, "sources/stock.yaml")}\nfiles: "stock*.csv"\n`);
    const [head = "", ...rows] = stock.split(/\r?\n/);
    const changed = rows.map((row) =>
      row.includes("BC-1402") ? row.replace(/\b\d+\b(?!.*\b\d+\b)/, "1") : row,
    );
    write(synced, "data/stock-2026-11-28.csv", [head, ...changed].join("\r\n"));
    const log = logOf(run(synced, "sync", "merrowgate"));
    expect(log.filter(({ msg }) => msg === "imported").map(({ file }) => file)).toEqual([
      "stock-2026-11-28.csv",
    ]);
    const next = logOf(run(synced, "sync", "merrowgate"));
    expect(next.some(({ msg }) => msg === "imported")).toBe(false);
    expect(next.at(-1)).toMatchObject({ msg: "the channel has all as it is", exit: 0 });
  });

  it("when more would change at once than is usual, then it stops and asks, and goes on where a person says so", async () => {
    const shop = copyOf(synced);
    const file = "channels/merrowgate/channel.yaml";
    write(
      shop,
      file,
      read(shop, file).replace(
        /^select:.*$/m,
        'select: status = "on sale" and not (category under "Beekeeping")',
      ),
    );
    const before = (await sandbox.state())["merrowgate"]?.jobs;
    const stopped = run(shop, "sync", "merrowgate");
    expect(stopped.exit).toBe(1);
    expect(String(logOf(stopped).at(-1)?.["msg"])).toMatch(
      /\d+ of the 37 listings of merrowgate would end, more than the 10% of sync\.most_withdrawn/,
    );
    expect((await sandbox.state())["merrowgate"]?.jobs).toBe(before);
    write(shop, file, read(synced, file).replace("price * 1.04", "price * 1.24"));
    const dear = run(shop, "sync", "merrowgate", "--log", "text");
    expect([dear.exit, dear.err]).toEqual([
      1,
      expect.stringContaining("would change their price, more than the 30% of sync.most_prices_moved"),
    ]);
  });

  it("when an earlier round was killed, then the next goes on where it ended", async () => {
    const shop = reaching(built, sandbox, ["lanternlist"]);
    const child = spawn(process.execPath, [mainFile, "sync", "lanternlist"], {
      cwd: shop,
      env: environment(exchangeEnvironment),
      stdio: ["ignore", "ignore", "pipe"],
    });
    await new Promise<void>((done) =>
      child.stderr.on("data", (chunk: Buffer) => chunk.toString().includes('"msg":"sending"') && done()),
    );
    // A second one at the same time finds the first.
    const second = run(shop, "sync", "lanternlist");
    child.kill("SIGKILL");
    await new Promise((done) => child.once("exit", done));
    expect([0, 3]).toContain(second.exit);
    const last = run(shop, "sync", "lanternlist");
    expect(last.exit).toBe(0);
    expect((await sandbox.state())["lanternlist"]?.shown).toBe(44);
  });
});

describe("telling somebody", () => {
  it("when rows are refused, then a mail goes out with counts, causes and the report; and a command gets the facts", async () => {
    const mails: ParsedMail[] = [];
    const server = new SMTPServer({
      authOptional: true,
      closeTimeout: 100,
      disabledCommands: ["STARTTLS"],
      onData: (stream, _, done) => void simpleParser(stream).then((mail) => (mails.push(mail), done())),
    });
    await new Promise<void>((listening) => server.listen(0, "127.0.0.1", listening));
    const { port } = server.server.address() as AddressInfo;
    const own = await startSandbox("--channel", "merrowgate");
    await own.say({ channel: "merrowgate", dislikes: { field: "item_title", word: "copper" } });
    const shop = reaching(built, own, ["merrowgate"]);
    const manifest = read(shop, "lexicant.yaml");
    const tell = `${manifest}\ntell:\n  mail: { to: [clerk@brindlecote.example], from: lexicant@brindlecote.example, server: "smtp://127.0.0.1:${port}" }\n  command: [node, -e, "process.stdin.pipe(require('fs').createWriteStream('told.json'))"]\n`;
    write(shop, "lexicant.yaml", tell);
    const env = { SHOP_TOKEN: exchangeEnvironment.SHOP_TOKEN, LEXICANT_MAY_RUN: "yes" };
    lexicant(shop, ["build", "merrowgate"]);
    const { err } = await lexicantBeside(shop, ["submit", "merrowgate", "--wait", "--quiet"], env);
    expect(err).toBe("");
    const mail = mails.find(({ subject }) => subject?.includes("refused") === true);
    expect(mail?.subject).toMatch(
      /^Brindlecote, merrowgate: job 1 \(full\): \d+ of 37 accepted, \d+ refused$/,
    );
    expect(mail?.text).toContain('240 the word "copper" is not wanted here, such as BC-');
    expect(mail?.text).toMatch(/^listings: 37$/m);
    expect(mail?.attachments[0]?.content.toString()).toContain("item_ref");
    expect(JSON.parse(read(shop, "told.json"))).toMatchObject({
      occasion: "job-refused",
      channel: "merrowgate",
      counts: { listings: 37 },
    });
    // Nobody is there to take the mail: the work is done all the same.
    await new Promise<void>((closed) => server.close(() => closed()));
    write(shop, "lexicant.yaml", tell.replace("command: [node", "command: [no-such-program"));
    rmSync(join(shop, "told.json"));
    lexicant(shop, ["build", "merrowgate", "--failed"]);
    const deaf = await lexicantBeside(shop, ["submit", "merrowgate", "--wait", "--quiet"], env);
    // A workspace that a stranger made runs nothing.
    expect(
      lexicant(shop, ["results", "merrowgate", "--job", "2"], {
        env: { ...exchangeEnvironment, LEXICANT_MAY_RUN: "" },
      }).err,
    ).toContain("set LEXICANT_MAY_RUN=yes");
    expect(deaf.exit).toBe(1);
    expect(deaf.err).toMatch(
      /nobody was told of job-refused by a mail over smtp:.*\n.*nobody was told of job-refused by the command no-such-program/,
    );
    expect(existsSync(join(shop, "told.json"))).toBe(false);
    write(shop, "lexicant.yaml", manifest);
    await own.stop();
  }, 60_000);

  it("when nothing is set, then nobody is told; what is set wrong is refused", () => {
    const shop = copyOf(built);
    write(
      shop,
      "lexicant.yaml",
      `${read(shop, "lexicant.yaml")}\ntell:\n  on: [everything]\n  mail: { to: [], from: x, server: "http://x" }\n`,
    );
    const { exit, err } = lexicant(shop, ["list"]);
    expect(exit).toBe(2);
    for (const key of ["tell.on", "tell.mail.to", "tell.mail.from", "tell.mail.server"])
      expect(err).toContain(key);
    expect(readFileSync(join(shop, "lexicant.yaml"), "utf8")).toContain("everything");
  });
});
