// Attacks the built program: kills it at each change of the disk and at system calls, and runs several at once. What a
// person could tell of the workspace afterwards must be all of before or all of after. Asked for by its name alone; the
// half at system calls needs strace.
import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { cpSync, lstatSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

import { worldOf } from "../test/kit/io.mjs";

const main = fileURLToPath(new URL("../dist/main.js", import.meta.url));
const hook = fileURLToPath(new URL("../test/kit/kill-at.mjs", import.meta.url));
const { runCommandLine } = await import("../modules/cli/command-line.js");

const environment = { ...process.env, LEXICANT_TODAY: "2026-11-25", NO_COLOR: "1" };

/** Runs a command in this process: what is looked at between two kills need not start anew. */
const ask = async (cwd, args) => {
  let [out, err] = ["", ""];
  const say = { out: (text) => (out += text), err: (text) => (err += text) };
  const exit = await runCommandLine(args, worldOf({ ...say, environment, cwd }));
  return { exit, out, err };
};

const hash = (text) => createHash("sha256").update(text).digest("hex").slice(0, 12);

const filesIn = (folder, below = "") =>
  readdirSync(join(folder, below)).flatMap((name) => {
    const path = join(below, name);
    if (path === ".lexicant") return [];
    return lstatSync(join(folder, path)).isDirectory()
      ? filesIn(folder, path)
      : [[path, hash(readFileSync(join(folder, path)))]];
  });

/** All that a person could tell of a workspace; the first question of it settles what was broken off. */
const stateOf = async (shop, channels) => {
  const history = (await ask(shop, ["history", "--json"])).out
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line))
    .map(({ revision, kind, layer, file }) => [revision, kind, layer, file]);
  const sent = [];
  for (const channel of channels) sent.push((await ask(shop, ["sent", channel, "--dry-run", "--json"])).out);
  const products = hash((await ask(shop, ["list", "--json"])).out);
  return JSON.stringify({ history, sent, products, files: filesIn(shop) });
};

const ended = (child) =>
  new Promise((resolve) => child.on("close", (code, signal) => resolve({ code, signal })));

const killedAtStep = async (cwd, args, step) => {
  const env = { ...environment, NODE_OPTIONS: `--import ${hook}`, KILL_AT: String(step) };
  const { signal } = await ended(spawn(process.execPath, [main, ...args], { cwd, env, stdio: "ignore" }));
  return signal === "SIGKILL";
};

/**
 * The system itself kills the program at its so-manieth call of these. It counts for each thread by itself: with one for
 * files they come in their order.
 */
const killedAtCall = (calls) => async (cwd, args, step) => {
  const inject = `inject=${calls}:signal=KILL:when=${step}`;
  const traced = [
    "-f",
    "-o",
    "/dev/null",
    "-e",
    `trace=${calls}`,
    "-e",
    inject,
    process.execPath,
    main,
    ...args,
  ];
  const env = { ...environment, UV_THREADPOOL_SIZE: "1" };
  const { code, signal } = await ended(spawn("strace", traced, { cwd, env, stdio: "ignore" }));
  return signal === "SIGKILL" || code === 137;
};

const scenarios = {
  async "a build of two channels"(shop) {
    await ask(shop, ["build", "lanternlist", "chatterquay"]);
    for (const part of [2, 3]) writeFileSync(join(shop, `out/chatterquay/chatterquay-${part}.csv`), "old\n");
    await ask(shop, ["set", "BC-1402", "name=Smoker brush"]);
    return { args: ["build", "lanternlist", "chatterquay"], channels: ["lanternlist", "chatterquay"] };
  },
  async "an import with a new source"(shop) {
    writeFileSync(
      join(shop, "data/new.csv"),
      "SKU,Name,Price\nNW-1,Bee brush,4.50\nNW-2,Tool,x\n,nameless,3\n",
    );
    return { args: ["import", "data/new.csv", "--accept"], channels: [] };
  },
  async "the undo of an import"(shop) {
    writeFileSync(join(shop, "data/new.csv"), "SKU,Name,Price\nNW-1,Bee brush,4.50\nNW-2,Tool,5\n");
    await ask(shop, ["import", "data/new.csv", "--accept"]);
    return { args: ["undo"], channels: [] };
  },
  async "another delivery of stock"(shop) {
    const stock = readFileSync(join(shop, "data/stock-2026-11-24.csv"), "utf8").split("\n");
    const later = stock.map((line, at) => (at === 0 ? line : line.replace(/\d+(\D*)$/, `${at}$1`)));
    writeFileSync(join(shop, "data/stock-2026-11-25.csv"), later.join("\n"));
    return { args: ["import", "data/stock-2026-11-25.csv"], channels: [] };
  },
  async "channels that are added"() {
    return { args: ["channels", "add", "storefront"], channels: [] };
  },
  async "a placement"(shop) {
    const { out } = await ask(shop, ["categories", "merrowgate", "--json"]);
    const code = out
      .split("\n")
      .filter(Boolean)
      .map((line) => JSON.parse(line))
      .find(({ open }) => open).code;
    return { args: ["place", "merrowgate", "--set", `BC-1402=${code}`], channels: [] };
  },
  async "a sending"(shop) {
    await ask(shop, ["build", "lanternlist"]);
    return { args: ["sent", "lanternlist"], channels: ["lanternlist"] };
  },
};

const killing = async (folder, name, prepare, kill, most) => {
  const shop = join(folder, "shop");
  rmSync(shop, { recursive: true, force: true });
  cpSync(join(folder, "demo"), shop, { recursive: true });
  const { args, channels } = await prepare(shop);
  const copy = (to) => {
    rmSync(join(folder, to), { recursive: true, force: true });
    cpSync(shop, join(folder, to), { recursive: true });
    return join(folder, to);
  };
  const before = await stateOf(copy("before"), channels);
  const whole = copy("after");
  await ended(spawn(process.execPath, [main, ...args], { cwd: whole, env: environment, stdio: "ignore" }));
  const after = await stateOf(whole, channels);
  const counts = { kills: 0, before: 0, after: 0, torn: 0 };
  // How many steps there are is found by doubling; then they are gone through evenly.
  let last = 16;
  while (await kill(copy("probe"), args, last)) last *= 2;
  const stride = Math.max(1, Math.floor(last / most));
  // Another start each time: kills of several runs add up.
  let step = 1 + Math.floor(Math.random() * stride);
  const worker = async (own) => {
    for (let at = step; ; at = step) {
      step += stride;
      if (at > last) return;
      const here = copy(own);
      if (!(await kill(here, args, at))) continue;
      counts.kills++;
      const state = await stateOf(here, channels);
      if (state === before) counts.before++;
      else if (state === after) counts.after++;
      else {
        counts.torn++;
        console.log(`    torn at ${at}: ${state.slice(0, 400)}`);
      }
    }
  };
  await Promise.all([worker("one"), worker("two")]);
  console.log(
    `  ${name}: ${counts.kills} kills, ${counts.before} as before, ${counts.after} as after, ${counts.torn} torn`,
  );
  return counts;
};

const together = async (folder, lines, check) => {
  const shop = join(folder, "together");
  rmSync(shop, { recursive: true, force: true });
  cpSync(join(folder, "demo"), shop, { recursive: true });
  for (const name of ["aa", "bb", "cc"])
    writeFileSync(join(shop, `data/${name}.csv`), `SKU,Name,Price\n${name}-1,Thing,1\n`);
  const started = lines.map(async (args) => {
    const child = spawn(process.execPath, [main, ...args], { cwd: shop, env: environment });
    child.stdout.resume();
    let said = "";
    child.stderr.on("data", (piece) => (said += piece));
    const { code } = await ended(child);
    if (code === 0 || code === 1) return 0;
    console.log(`    ${args.join(" ")} ended with ${code}: ${said.replace(/\s+/g, " ")}`);
    return 1;
  });
  const bad = (await Promise.all(started)).reduce((sum, one) => sum + one, 0);
  return { bad, lost: await check(shop) };
};

const manyAtOnce = async (folder) => {
  const { out } = await ask(join(folder, "demo"), ["categories", "merrowgate", "--json"]);
  const codes = out
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line))
    .filter(({ open }) => open);
  const skus = (await ask(join(folder, "demo"), ["list", "--json", "--limit", "6"])).out
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line).sku)
    .filter(Boolean);
  const rows = (shop, file) => readFileSync(join(shop, file), "utf8");
  const places = (count) => ({
    lines: skus
      .slice(0, count)
      .map((sku, at) => ["place", "merrowgate", "--set", `${sku}=${codes[at].code}`]),
    check: async (shop) =>
      skus
        .slice(0, count)
        .filter((sku) => !rows(shop, "channels/merrowgate/placements.csv").includes(`,${sku},`)).length,
  });
  const imports = {
    lines: ["aa", "bb", "cc"].map((name) => ["import", `data/${name}.csv`, "--accept"]),
    check: async (shop) =>
      ["aa", "bb", "cc"].filter((name) => !rows(shop, "lexicant.yaml").includes(name)).length +
      ["aa", "bb", "cc"].length -
      (await ask(shop, ["list", "--json"])).out
        .split("\n")
        .filter((line) => /"sku":"(?:aa|bb|cc)-1"/.test(line)).length,
  };
  const builds = (count) => ({
    lines: Array.from({ length: count }, () => ["build", "gavelstead"]),
    check: async (shop) =>
      count - readdirSync(join(shop, "out/gavelstead")).filter((name) => name.endsWith(".xml")).length,
  });
  const mixed = {
    lines: [
      ["build", "lanternlist"],
      ["set", skus[0], "name=Mixed"],
      ["import", "data/aa.csv", "--accept"],
      ["check", "lanternlist"],
      ["list"],
      ["channels", "add", "storefront"],
    ],
    check: async (shop) => {
      const manifest = rows(shop, "lexicant.yaml");
      const shown = (await ask(shop, ["show", skus[0]])).out;
      return [manifest.includes("aa"), manifest.includes("storefront"), shown.includes("Mixed")].filter(
        (is) => !is,
      ).length;
    },
  };
  const runs = [places(2), places(6), imports, builds(2), builds(6), mixed];
  let [count, bad, lost] = [0, 0, 0];
  for (let round = 0; round < 10; round++)
    for (const { lines, check } of runs) {
      const ran = await together(folder, lines, check);
      count++;
      bad += ran.bad;
      lost += ran.lost;
    }
  console.log(`  several at once: ${count} runs of two to six, ${bad} ended badly, ${lost} things lost`);
};

export const run = async (folder) => {
  mkdirSync(folder, { recursive: true });
  spawnSync(process.execPath, [main, "demo", "demo", "--quiet"], { cwd: folder, env: environment });
  const sums = { kills: 0, before: 0, after: 0, torn: 0 };
  const hasTrace = spawnSync("strace", ["-V"]).status === 0;
  const ways = {
    "changes of the disk": killedAtStep,
    ...(hasTrace && {
      "system calls for names": killedAtCall("rename,unlink,rmdir,mkdir"),
      "system calls for contents": killedAtCall("pwrite64,write,fdatasync,fsync,ftruncate"),
    }),
  };
  for (const [way, kill] of Object.entries(ways)) {
    if (!way.includes(process.env.ATTACK ?? "")) continue;
    console.log(`  killed at ${way}`);
    for (const [name, prepare] of Object.entries(scenarios)) {
      const counts = await killing(folder, name, prepare, kill, way.startsWith("system") ? 32 : 60);
      for (const key of Object.keys(sums)) sums[key] += counts[key];
    }
  }
  console.log(
    `  in all: ${sums.kills} kills, ${sums.before} as before, ${sums.after} as after, ${sums.torn} torn`,
  );
  await manyAtOnce(folder);
};
