// From a fresh clone to listings that are live: the demo shop in a new folder, imported, checked, built, and sent to a
// sandbox that plays two channels. Of longer answers the beginning is shown.
import { spawn, spawnSync } from "node:child_process";
import { appendFileSync, existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { build, install, root } from "./setup.mjs";

install();
build();

const TOKEN = "demo-token";
const program = join(root, "dist", "main.js");
const environment = { ...process.env, LEXICANT_SANDBOX_TOKEN: TOKEN, SHOP_TOKEN: TOKEN };

const freeFolder = (count = 1) => {
  const name = count === 1 ? "demo-shop" : `demo-shop-${count}`;
  return existsSync(join(root, name)) ? freeFolder(count + 1) : name;
};

const folder = freeFolder();
const shop = join(root, folder);
const say = (text) => process.stdout.write(`${text}\n`);

/** Runs a command and shows the first lines of its answer, and the last where an end is asked for. */
const lexicant = (args, why, { first = 8, last = 0, at = ["-C", folder] } = {}) => {
  say(`\n# ${why}\n$ lexicant ${[...at, ...args].join(" ")}`);
  const { status, stdout } = spawnSync(process.execPath, [program, ...at, ...args, "--no-pager"], {
    cwd: root,
    env: environment,
    encoding: "utf8",
    stdio: ["ignore", "pipe", "inherit"],
  });
  const lines = stdout.replace(/\n$/, "").split("\n");
  const [shown, end] =
    lines.length <= first + last + 1
      ? [lines, []]
      : [lines.slice(0, first), lines.slice(lines.length - last)];
  for (const line of shown) say(line);
  if (shown.length < lines.length) say(`  … (${lines.length - first - last} lines more)`);
  for (const line of last === 0 ? [] : end) say(line);
  // 1 says that the data has findings, which is what the demo is there to show.
  if (status !== 0 && status !== 1) throw new Error(`lexicant ${args.join(" ")} ended with ${status}`);
};

/** Starts the sandbox on a free port; gives the address of what it plays. */
const startSandbox = () =>
  new Promise((resolve, reject) => {
    const args = [
      "sandbox",
      "--port",
      "0",
      "--json",
      "--quiet",
      "--channel",
      "merrowgate",
      "--channel",
      "chatterquay",
    ];
    const files = [
      "--state",
      join(shop, "sandbox", "state.json"),
      "--folder",
      join(shop, "sandbox", "folders"),
    ];
    const house = ["--dislikes", "merrowgate:item_title:copper"];
    const child = spawn(process.execPath, [program, ...args, ...files, ...house], {
      cwd: root,
      env: environment,
      stdio: ["ignore", "pipe", "inherit"],
    });
    let text = "";
    child.stdout.on("data", (chunk) => {
      text += chunk;
      if (text.split("\n").length < 3) return;
      const addresses = text
        .trim()
        .split("\n")
        .map((line) => JSON.parse(line));
      resolve({ child, addresses: Object.fromEntries(addresses.map((one) => [one.channel, one.address])) });
    });
    child.once("exit", (code) => reject(new Error(`the sandbox ended with ${code}`)));
  });

lexicant(["demo", folder], "A shop's files of five kinds become one catalogue", {
  first: 6,
  last: 3,
  at: [],
});
lexicant(["check", "lanternlist"], "What would a channel refuse? Asked before anything is sent", {
  first: 6,
  last: 4,
});
lexicant(["explain", "BC-5203", "merrowgate", "boxed_weight"], "Where does a value come from?", { first: 7 });
lexicant(["gaps", "merrowgate", "gavelstead"], "One sheet asks for just what is missing", {
  first: 4,
  last: 2,
});
lexicant(["build"], "All that is ready becomes each channel's own files", { first: 5, last: 5 });

const { child, addresses } = await startSandbox();
try {
  const base = addresses.merrowgate.replace(/\/merrowgate$/, "");
  const steer = (wish) =>
    fetch(`${base}/sandbox`, {
      method: "POST",
      body: JSON.stringify(wish),
      headers: { connection: "close" },
    });
  for (const [channel, address] of Object.entries(addresses))
    appendFileSync(
      join(shop, "channels", channel, "channel.yaml"),
      `\nexchange:\n  address: ${address}\n  token_from: SHOP_TOKEN\n  private_address: yes\n`,
    );
  say(
    `\n# There and back: a sandbox plays Merrowgate and Chatterquay at ${base}; their channel.yaml say so under "exchange".\n` +
      "# Merrowgate has a rule that no definition tells: it wants no copper in titles.",
  );
  lexicant(["submit", "chatterquay", "--wait"], "Chatterquay gets the whole, once, and answers", {
    first: 4,
  });
  lexicant(["submit", "merrowgate", "--wait"], "Merrowgate gets 16 workbooks, and refuses three rows", {
    first: 2,
    last: 11,
  });
  const fills = join(shop, "channels", "merrowgate", "fills.yaml");
  const before = readFileSync(fills, "utf8");
  const after = before.replace(
    /^( *item_title: )(.+)$/m,
    (_, head, fill) => `${head}replace(${fill}, "Copper", "Metal")`,
  );
  if (after === before) throw new Error("the fill of item_title is not where it was");
  writeFileSync(fills, after);
  say(
    '\n# One fix for all three: the fill of item_title in channels/merrowgate/fills.yaml now says "Metal" for "Copper".',
  );
  lexicant(
    ["build", "merrowgate", "--failed"],
    "Only what was refused is built again, under names of its own",
    { first: 3 },
  );
  lexicant(["submit", "merrowgate", "--wait"], "… and sent: all is live", { first: 1, last: 2 });
  lexicant(["set", "BC-1402", "price=8.40 GBP"], "A price changes", { first: 2 });
  lexicant(["build", "merrowgate", "--purpose", "amend"], "A file of changes holds that row alone", {
    first: 2,
  });
  lexicant(["submit", "merrowgate", "--purpose", "amend", "--wait"], "… and Merrowgate takes it", {
    first: 1,
    last: 2,
  });
  await steer({ channel: "merrowgate", reference: "BC-1104", cells: { item_title: "Cheap hive!!!" } });
  lexicant(
    ["reconcile", "merrowgate", "--fix"],
    "Somebody changed a title at Merrowgate by hand: found, and a file made that mends it",
    { first: 5, last: 1 },
  );
  lexicant(["submit", "merrowgate", "--purpose", "amend", "--wait"], "Mended", { first: 1, last: 2 });
  lexicant(["reconcile", "merrowgate"], "The channel shows what we meant", { first: 3 });
  lexicant(["jobs"], "What went where, and how it ended", { first: 7 });
} finally {
  child.removeAllListeners("exit");
  child.kill();
}
say(
  `\nWhat to do next:\n` +
    `  - open ${folder}/channels/lanternlist/fills.yaml, change a fill, and run: node dist/main.js -C ${folder} check\n` +
    `  - fill in ${folder}/out/gaps/merrowgate-gavelstead.xlsx, and: node dist/main.js -C ${folder} import out/gaps/merrowgate-gavelstead.xlsx\n` +
    `  - play the channels yourself: node dist/main.js -C ${folder} sandbox\n` +
    `  - begin with your own file: README.md, "A first session"`,
);
