// A feed of 300 MB as channels fetch it: whole, in part, packed, and not at all where it is known.
import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import {
  appendFileSync,
  closeSync,
  mkdirSync,
  openSync,
  readFileSync,
  writeFileSync,
  writeSync,
} from "node:fs";
import http from "node:http";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { root } from "../scripts/setup.mjs";

const program = join(root, "dist", "main.js");
const PORT = 41_777;
const BYTES = 300e6;

/** A record of what is published, with a file that was made here. */
const publish = (shop) => {
  const folder = join(shop, ".lexicant", "served", "lanternlist");
  mkdirSync(folder, { recursive: true });
  const source = readFileSync(join(shop, "out", "lanternlist", "lanternlist.xml"));
  const path = join(folder, "feed.xml");
  const file = openSync(path, "w");
  const hash = createHash("sha256");
  let bytes = 0;
  for (; bytes < BYTES; bytes += source.length) {
    writeSync(file, source);
    hash.update(source);
  }
  closeSync(file);
  const packed = gzipSync(readFileSync(path), { level: 1 });
  writeFileSync(`${path}.gz`, packed);
  const modified = new Date().toISOString();
  const own = {
    name: "feed.xml",
    stored: "feed.xml",
    bytes,
    gzipBytes: packed.length,
    sha256: hash.digest("hex"),
    modified,
  };
  writeFileSync(
    join(folder, "published.json"),
    JSON.stringify({ listings: 1000, at: modified, files: [own] }),
  );
};

const agent = new http.Agent({ keepAlive: true, maxSockets: 32 });

const get = (path, headers = {}) =>
  new Promise((resolve, reject) => {
    const request = http.request({ host: "127.0.0.1", port: PORT, path, headers, agent }, (response) => {
      response.on("data", () => undefined);
      response.on("end", () => resolve(response));
    });
    request.on("error", reject);
    request.end();
  });

export const run = async (folder) => {
  const { spawnSync } = await import("node:child_process");
  const lexicant = (args, cwd) => spawnSync(process.execPath, [program, ...args], { cwd, stdio: "ignore" });
  lexicant(["demo", "shop"], folder);
  const shop = join(folder, "shop");
  lexicant(["build", "lanternlist"], shop);
  appendFileSync(join(shop, "channels", "lanternlist", "channel.yaml"), "\nserve:\n  secret_path: no\n");
  publish(shop);
  const child = spawn(
    process.execPath,
    [program, "serve", "lanternlist", "--port", String(PORT), "--log", "json"],
    {
      cwd: shop,
      stdio: "ignore",
    },
  );
  const peak = () =>
    Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, "utf8"))?.[1]) / 1024;
  for (;;) {
    if ((await get("/health").catch(() => undefined)) !== undefined) break;
    await new Promise((done) => setTimeout(done, 100));
  }
  const path = "/lanternlist/feed.xml";
  const { headers } = await get(path, { "accept-encoding": "identity" });
  const measure = async (name, count, atOnce, own) => {
    const times = [];
    let begun = 0;
    const start = performance.now();
    const one = async () => {
      while (begun++ < count) {
        const from = performance.now();
        await get(path, own);
        times.push(performance.now() - from);
      }
    };
    await Promise.all(Array.from({ length: atOnce }, one));
    const seconds = (performance.now() - start) / 1000;
    times.sort((a, b) => a - b);
    const at = (share) => (times[Math.floor(times.length * share)] ?? 0).toFixed(2);
    process.stdout.write(
      `${name.padEnd(34)}${(times.length / seconds).toFixed(1).padStart(9)} a second, median ${at(0.5)} ms, 99% ${at(0.99)} ms, peak ${peak().toFixed(0)} MB\n`,
    );
  };
  await measure("known already, 16 at once", 20_000, 16, { "if-none-match": headers.etag });
  await measure("known already, one by one", 5000, 1, { "if-none-match": headers.etag });
  await measure("whole (300 MB), 4 at once", 24, 4, { "accept-encoding": "identity" });
  await measure("packed, 4 at once", 24, 4, { "accept-encoding": "gzip" });
  await measure("one megabyte of it, 16 at once", 2000, 16, { range: "bytes=1000000-1999999" });
  agent.destroy();
  child.kill();
};
