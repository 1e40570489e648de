import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { channelData } from "../../src/sandbox/channel-data.js";
import { freshState, PlayedChannel } from "../../src/sandbox/played-channel.js";
import { smallShop } from "../kit/demo-shop.js";
import { isLong, runs } from "../kit/runs.js";
import { jsonLines, lexicant, projectRoot, read, write, type Ran } from "../kit/run.js";
import { exchangeEnvironment, reaching, startSandbox } from "../kit/sandbox.js";

const channels = ["merrowgate", "gavelstead", "fjordhandel", "chatterquay"] as const;
type Channel = (typeof channels)[number];

const run = (shop: string, ...args: readonly string[]): Ran => {
  const ran = lexicant(shop, args, { env: exchangeEnvironment });
  if (ran.exit !== null && ran.exit > 1 && !ran.err.includes("went to"))
    throw new Error(`${args.join(" ")}: ${ran.err}`);
  return ran;
};

/** Two groups, some single products. */
const chosen = [
  "BC-1301-WHITE-M",
  "BC-1301-SAGE-S",
  "BC-1301-SAND-XL",
  "BC-1201-LARGE",
  "BC-1201-SMALL",
  "BC-1402",
  "BC-1404",
  "BC-5202",
];
const select = (skus: readonly string[]): string =>
  `select: ${skus.map((sku) => `sku = "${sku}"`).join(" or ")}`;
const small = smallShop();
const policy = (channel: string): string => `channels/${channel}/channel.yaml`;
for (const channel of channels)
  // A jump of a price is no matter here.
  write(
    small,
    policy(channel),
    read(small, policy(channel))
      .replace(/^select:.*$/m, select(chosen))
      .replace(/ {2}greatest_change.*\n/, ""),
  );

type Step =
  | {
      readonly kind: "edit";
      readonly sku: string;
      readonly attribute: "price" | "name" | "quantity";
      readonly value: number;
    }
  | { readonly kind: "send" }
  | { readonly kind: "amend" }
  | { readonly kind: "refuse"; readonly word: number }
  | { readonly kind: "end"; readonly sku: string }
  | { readonly kind: "return" };

const sku = fc.constantFrom(...chosen);
const step: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constant("edit" as const),
      sku,
      attribute: fc.constantFrom("price", "name", "quantity"),
      value: fc.integer({ min: 120, max: 160 }),
    }),
  },
  { weight: 3, arbitrary: fc.constant<Step>({ kind: "send" }) },
  { weight: 2, arbitrary: fc.constant<Step>({ kind: "amend" }) },
  {
    weight: 1,
    arbitrary: fc.record({ kind: fc.constant("refuse" as const), word: fc.integer({ min: 120, max: 160 }) }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant("end" as const), sku }) },
  { weight: 1, arbitrary: fc.constant<Step>({ kind: "return" }) },
);

/** A title that one member alone has tears its group, and what is torn is held: groups keep theirs. */
const isGrouped = (sku: string): boolean => /^BC-1[23]01-/.test(sku);

const titles: Readonly<Record<Channel, string>> = {
  merrowgate: "item_title",
  gavelstead: "heading",
  fjordhandel: "title_en",
  chatterquay: "said_short",
};

/** What a channel would show that was sent the whole of a build and nothing before: read by the sandbox's own code. */
const wouldShow = async (shop: string, channel: Channel) => {
  run(shop, "build", channel);
  const data = channelData(join(projectRoot, "definitions", channel));
  if (data === undefined) throw new Error(`${channel} takes files`);
  const played = new PlayedChannel(data, freshState(), 0);
  const ending = data.layout.file.slice(data.layout.file.lastIndexOf("."));
  const newest = readdirSync(join(shop, "out", channel)).filter(
    (name) => name.endsWith(ending) && !/-(?:amend|withdraw|chosen)/.test(name),
  );
  // Of a channel that takes each name once the last is meant: earlier ones stay beside it.
  const files = data.nameOnce
    ? [...newest].sort((a, b) => Number(/\d+/.exec(b)) - Number(/\d+/.exec(a))).slice(0, 1)
    : newest;
  const action = data.purposes.find(({ purpose }) => purpose === "full")?.action ?? "";
  for (const [at, name] of files.entries())
    await played.arrive({ name, bytes: readFileSync(join(shop, "out", channel, name)), key: "", action }, at);
  played.advance(1e15);
  return Object.fromEntries(
    Object.entries(played.state.shown).map(([key, { cells }]) => [
      key,
      Object.fromEntries(
        Object.entries(cells).map(([name, cell]) => [
          name,
          typeof cell === "string" ? cell : cell.join("\n"),
        ]),
      ),
    ]),
  );
};

const send = (shop: string, channel: Channel, ...build: readonly string[]): void => {
  const [made] = jsonLines(run(shop, "build", channel, ...build, "--json").out);
  if ((made?.["files"] as readonly unknown[]).length === 0) return;
  const purpose = build.includes("--purpose") ? (build[build.indexOf("--purpose") + 1] ?? "full") : "full";
  run(shop, "submit", channel, "--purpose", purpose, "--wait", "--quiet");
};

describe("whatever is edited, sent, refused, amended and ended", () => {
  it("when all is settled, then the channel holds what a full build would say, and the ledger knows it", async () => {
    const numRuns = runs(1, 300);
    let steps = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...channels),
        fc.array(step, { minLength: 3, maxLength: 9 }),
        async (channel, sequence) => {
          const sandbox = await startSandbox();
          const shop = reaching(small, sandbox, [channel]);
          const own = read(shop, policy(channel));
          let going = [...chosen];
          const choose = (skus: readonly string[]): void => {
            going = [...skus];
            write(shop, policy(channel), own.replace(/^select:.*$/m, select(skus)));
          };
          send(shop, channel);
          for (const one of sequence) {
            steps++;
            if (one.kind === "edit") {
              const attribute = one.attribute === "name" && isGrouped(one.sku) ? "quantity" : one.attribute;
              const values = {
                name: `Thing number ${one.value}`,
                price: `${one.value}.50 GBP`,
                quantity: one.value,
              };
              run(shop, "set", one.sku, `${attribute}=${values[attribute]}`);
            }
            if (one.kind === "send") send(shop, channel, "--changed");
            else if (one.kind === "amend" && channel !== "chatterquay")
              send(shop, channel, "--purpose", "amend");
            else if (one.kind === "refuse")
              await sandbox.say({
                channel,
                dislikes: { field: titles[channel], word: `number ${one.word}` },
              });
            else if (one.kind === "end") choose(going.filter((sku) => sku !== one.sku));
            else if (one.kind === "return") choose(chosen);
            if (going.length === 0) choose(chosen.slice(0, 2));
          }
          // Settled: nothing is refused any more, and everything that differs has gone.
          await sandbox.say({ channel, forgives: true });
          send(shop, channel, "--changed");
          send(shop, channel, "--purpose", "withdraw", "--yes");
          const shown = Object.fromEntries(
            Object.entries(await sandbox.shown(channel)).map(([key, { cells }]) => [key, cells]),
          );
          const expected = await wouldShow(shop, channel);
          // What is held stays there as it was accepted last; nothing else may be there besides.
          const { notSent } = JSON.parse(read(shop, `out/${channel}/build.json`)) as {
            notSent: readonly { sku: string; state: string }[];
          };
          const held = new Set(notSent.filter(({ state }) => state === "held").map(({ sku }) => sku));
          const besides = Object.keys(shown).filter((key) => !(key in expected));
          expect(besides.filter((key) => !key.startsWith("group ") && !held.has(key))).toEqual([]);
          expect(Object.fromEntries(Object.entries(shown).filter(([key]) => key in expected))).toEqual(
            expected,
          );
          const differing = jsonLines(run(shop, "diff", channel, "--against", "sent", "--json").out)
            .filter(({ type, sku }) => type === "difference" && !held.has(sku as string))
            .map(({ kind, sku }) => [kind, sku]);
          expect(differing).toEqual([]);
          expect(run(shop, "reconcile", channel).exit).toBe(0);
          await sandbox.stop();
        },
      ),
      {
        numRuns,
        seed: Number(process.env["TEST_SEED"] ?? 11),
      },
    );
    if (isLong) process.stderr.write(`${numRuns} sequences of ${steps} steps\n`);
  }, 7_200_000);
});
