import { chmodSync, readdirSync } from "node:fs";
import { dirname, join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { demoShop } from "../kit/demo-shop.js";
import { startOpenSsh, type RunningOpenSsh } from "../kit/openssh.js";
import { copyOf, jsonLines, lexicant, read, write, type Ran } from "../kit/run.js";
import { exchangeEnvironment, reach, startSandbox, type RunningSandbox } from "../kit/sandbox.js";

const ssh = await startOpenSsh();
const built = demoShop();
lexicant(built, ["build", "fjordhandel"]);

const run = (shop: string, ...args: readonly string[]): Ran =>
  lexicant(shop, args, { env: { ...exchangeEnvironment, COLUMNS: "400" } });

let sandbox: RunningSandbox;
beforeAll(async () => {
  sandbox = await startSandbox();
  // The server may run as another user than this test.
  const folder = sandbox.addresses.get("fjordhandel") ?? "";
  for (let at = folder; at.includes("lexicant-test-"); at = dirname(at)) chmodSync(at, 0o755);
  await new Promise((done) => setTimeout(done, 200));
  chmodSync(join(folder, "arrivals"), 0o777);
});
afterAll(async () => {
  ssh?.stop();
  await sandbox.stop();
});

const reaching = (
  { port, user, keyFile, hostKey }: RunningOpenSsh,
  more = `  host_key: ${hostKey}\n`,
): string => {
  const shop = copyOf(built);
  const folder = sandbox.addresses.get("fjordhandel") ?? "";
  reach(
    shop,
    "fjordhandel",
    `sftp://${user}@127.0.0.1:${port}${folder}`,
    `  key_file: ${keyFile}\n  private_address: yes\n${more}`,
  );
  return shop;
};

describe.skipIf(ssh === undefined)("files over SFTP, to a real OpenSSH server", () => {
  const server = ssh!;

  it("when a host's key is not known, or is another, then nothing is shown to it", () => {
    const unknown = run(reaching(server, ""), "submit", "fjordhandel");
    expect([unknown.exit, unknown.err]).toEqual([
      3,
      expect.stringContaining(`the host shows the key ${server.hostKey}, and none is known`),
    ]);
    const other = run(reaching(server, `  host_key: SHA256:${"A".repeat(43)}\n`), "submit", "fjordhandel");
    expect([other.exit, other.err]).toEqual([
      3,
      expect.stringContaining("and not that of exchange.host_key"),
    ]);
    const shop = reaching(server);
    const file = "channels/fjordhandel/channel.yaml";
    write(shop, file, read(shop, file).replace("  private_address: yes\n", ""));
    expect(run(shop, "submit", "fjordhandel").err).toContain("127.0.0.1 is a private address");
    expect(readdirSync(join(sandbox.addresses.get("fjordhandel") ?? "", "arrivals"))).toEqual([]);
  });

  it("when the key is open to others, or the user is not let in, then it is told in words", () => {
    const shop = reaching(server);
    chmodSync(server.keyFile, 0o644);
    expect(run(shop, "submit", "fjordhandel").err).toContain("chmod 600");
    chmodSync(server.keyFile, 0o600);
    const file = "channels/fjordhandel/channel.yaml";
    write(shop, file, read(shop, file).replace(`${server.user}@`, "nobody-here@"));
    expect(run(shop, "submit", "fjordhandel").err).toContain("does not accept the user");
  });

  it("when a file is sent and answered, then all is accepted, and what is shown agrees", () => {
    const shop = reaching(server);
    const { exit, out, err } = run(shop, "submit", "fjordhandel", "--wait", "--minutes", "1");
    expect([exit, err, out]).toEqual([0, "", expect.stringContaining("205 accepted, 0 refused")]);
    expect(run(shop, "reconcile", "fjordhandel").out).toContain("205 as they should be");
    run(shop, "set", "BC-1402", "price=9.10 GBP");
    run(shop, "build", "fjordhandel", "--purpose", "amend");
    expect(run(shop, "submit", "fjordhandel", "--purpose", "amend", "--wait").out).toContain("1 accepted");
    expect(jsonLines(run(shop, "jobs", "--json").out)).toHaveLength(2);
  });
});
