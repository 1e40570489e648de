import { rmSync } from "node:fs";
import { parse } from "csv-parse/sync";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { smallShop } from "../kit/demo-shop.js";
import { copyOf, lexicant, read, write } from "../kit/run.js";
import {
  reaching,
  startSandbox,
  type RunningSandbox,
  exchanging as run,
  exchangingJson as json,
} from "../kit/sandbox.js";

const channels = ["merrowgate", "gavelstead", "fjordhandel", "chatterquay", "lanternlist"] as const;
const built = smallShop();
lexicant(built, ["build"]);

let sandbox: RunningSandbox;
let shop: string;

beforeAll(async () => {
  sandbox = await startSandbox();
  shop = reaching(built, sandbox, channels);
});
afterAll(() => sandbox.stop());

/** A workspace and a sandbox of its own, for what spoils both. */
const alone = async (
  channel: string,
  ...args: readonly string[]
): Promise<{ own: RunningSandbox; at: string }> => {
  const own = await startSandbox("--channel", channel, ...args);
  return { own, at: reaching(built, own, [channel]) };
};

const ledgerOf = (at: string, channel: string) => json(at, "ledger", channel);

describe("there and back", () => {
  it.each(channels)(
    "when %s gets the whole, then it has all of it, and the ledger says so with its ids",
    async (name) => {
      const [plan] = json(shop, "submit", name, "--dry-run");
      expect(plan).toMatchObject({ dryRun: true, channel: name });
      expect((await sandbox.state())[name]?.jobs).toBe(0);
      const { exit, out } = run(shop, "submit", name, "--wait", "--minutes", "1");
      expect(out).toContain("All is done");
      expect(exit).toBe(0);
      const [job] = json(shop, "jobs", name);
      const { listings, accepted, refused } = job as Record<string, number>;
      expect([accepted, refused]).toEqual([listings, 0]);
      expect((await sandbox.state())[name]?.shown).toBe(listings);
      const ledger = ledgerOf(shop, name).filter(({ state }) => state === "live");
      expect(ledger).toHaveLength(listings ?? 0);
      expect(ledger.every(({ id }) => /^[A-Z]{2}\d{7}$/.test(String(id)))).toBe(true);
      // Nothing is left to be sent, and nothing differs there.
      expect(run(shop, "diff", name).out).toContain("a full build holds what was sent");
      expect(run(shop, "reconcile", name).out).toMatch(/: ([\d,]+) as they should be\n$/);
    },
  );

  it("when the very same files are submitted again, then they are not sent twice", async () => {
    const before = (await sandbox.state())["merrowgate"]?.jobs;
    const { exit, err } = run(shop, "submit", "merrowgate");
    expect([exit, err]).toEqual([2, expect.stringContaining("went to merrowgate already, as job 1")]);
    expect((await sandbox.state())["merrowgate"]?.jobs).toBe(before);
  });

  it("when a channel looks at files without effect, then it says what it would refuse, and has nothing", async () => {
    const { own, at } = await alone("merrowgate");
    expect(run(at, "submit", "merrowgate", "--check-only").out).toContain("3 would be taken whole");
    await own.say({ channel: "merrowgate", dislikes: { field: "item_title", word: "copper" } });
    const { exit, out } = run(at, "submit", "merrowgate", "--check-only");
    expect(exit).toBe(1);
    expect(out).toContain('BC-1201-SMALL: the word "copper" is not wanted here');
    expect(json(at, "jobs", "merrowgate")).toEqual([]);
    expect((await own.state())["merrowgate"]).toMatchObject({ shown: 0, jobs: 0 });
    expect(run(at, "submit", "gavelstead", "--check-only").err).toContain(
      "does not look at files without effect",
    );
    await own.stop();
  });
});

describe("refused, mended, sent again", () => {
  it("when some are refused, then each is told with its cell and cause, known the next time, and sent again by itself", async () => {
    const { own, at } = await alone("merrowgate");
    await own.say({ channel: "merrowgate", dislikes: { field: "item_title", word: "copper" } });
    const first = run(at, "submit", "merrowgate", "--wait");
    expect(first.exit).toBe(1);
    expect(first.out).toMatch(/34 accepted, 3 refused\n +refused BC-1201-LARGE and 2 more alike/);
    expect(first.out).toMatch(/sent +item_title "Copper Smoker with guard/);
    expect(first.out).toContain("shop-export.csv, row 18");
    expect(first.out).toContain("our check did not foresee it");
    const ledger = ledgerOf(at, "merrowgate");
    expect(ledger.filter(({ state }) => state === "refused")).toHaveLength(3);
    expect(ledger.find(({ sku }) => sku === "BC-1201-LARGE")).toMatchObject({ state: "refused", job: 1 });
    expect(ledger.filter(({ state }) => state === "live")).toHaveLength(34);
    // What the channel has is what it accepted: the refused ones are new to it still.
    expect(run(at, "diff", "merrowgate").out).toContain("0 changed, 3 new");
    const file = "channels/merrowgate/known-refusals.csv";
    expect(read(at, file).trim().split(/\r?\n/)).toEqual([
      "code,message,field,contains,means,act",
      '240,"the word ""*"" is not wanted here",item_title,copper,,',
    ]);
    write(at, file, read(at, file).replace("copper,,", "copper,metals are not named in titles,say metal"));
    const codes = json(at, "check", "merrowgate").filter(
      ({ type, code }) => type === "finding" && /refus/.test(String(code)),
    );
    // One that is held, and was never sent, is told as well.
    expect(codes.map(({ code, product }) => `${String(code)} ${String(product)}`).sort()).toEqual([
      ...["BC-1201-LARGE", "BC-1201-SMALL", "BC-3103", "BC-5201"].map((sku) => `known-refusal ${sku}`),
      ...["BC-1201-LARGE", "BC-1201-SMALL", "BC-3103"].map((sku) => `refused-before ${sku}`),
    ]);
    expect(String(codes[0]?.["message"])).toContain("metals are not named in titles; say metal");
    run(at, "set", "BC-1201-LARGE", "--channel", "merrowgate", "name=Metal smoker with guard");
    expect(
      json(at, "check", "merrowgate").filter(
        ({ type, code }) => type === "finding" && code === "known-refusal",
      ),
    ).toHaveLength(3);
    // Those that are mended and those that are not: only what the channel refused goes again, under names of its own.
    expect(run(at, "build", "merrowgate", "--failed").out).toContain(
      "3 listings written to out/merrowgate/chosen",
    );
    expect(run(at, "submit", "merrowgate", "--wait").out).toContain("1 accepted, 2 refused");
    for (const sku of ["BC-1201-SMALL", "BC-3103"])
      run(at, "set", sku, "--channel", "merrowgate", `name=Metal thing ${sku.toLowerCase()}`);
    run(at, "build", "merrowgate", "--failed");
    const last = run(at, "submit", "merrowgate", "--wait");
    expect(last.out).toContain("2 accepted, 0 refused");
    expect(last.exit).toBe(0);
    expect(run(at, "build", "merrowgate", "--failed").out).toContain("no listing is for this file");
    expect((await own.state())["merrowgate"]?.shown).toBe(37);
    expect(read(at, file).split("\n")).toHaveLength(3);
    await own.stop();
  });

  it("when a channel throws a whole file out, then all of its rows are refused, and nothing else", async () => {
    const { own, at } = await alone("gavelstead");
    run(at, "submit", "gavelstead", "--wait");
    run(at, "set", "BC-1104", "price=350 GBP");
    run(at, "build", "gavelstead", "--changed");
    await own.say({ channel: "gavelstead", mood: "unreadable" });
    const { exit, out } = run(at, "submit", "gavelstead", "--wait");
    expect(exit).toBe(1);
    expect(out).toMatch(/not taken gavelstead-chosen-\d+\.xml: its third page is stained/);
    expect(json(at, "jobs")[0]).toMatchObject({ accepted: 0, refused: 1 });
    expect(ledgerOf(at, "gavelstead").find(({ sku }) => sku === "BC-1104")).toMatchObject({
      state: "refused",
    });
    expect(run(at, "diff", "gavelstead").out).toContain("1 changed, 0 new");
    await own.stop();
  });

  it("when some files of a build go, then the others are neither sent, refused, nor awaited; and one bad file keeps none back", async () => {
    const { own, at } = await alone("merrowgate");
    run(at, "submit", "merrowgate", "out/merrowgate/merrowgate-kitchen-dining.xlsx", "--wait");
    expect(json(at, "jobs")[0]).toMatchObject({ listings: 3, accepted: 3, refused: 0 });
    expect(json(at, "ledger", "merrowgate")).toHaveLength(3);
    expect((await own.state())["merrowgate"]?.shown).toBe(3);
    await own.say({ channel: "merrowgate", mood: "unreadable" });
    expect(run(at, "submit", "merrowgate", "--wait").out).toContain("11 accepted, 26 refused");
    await own.stop();
  });

  it("when what was refused for a blank is filled, then it is not told as unchanged", async () => {
    const { own, at } = await alone("merrowgate");
    await own.say({ channel: "merrowgate", dislikes: { field: "item_title", word: "brush" } });
    run(at, "submit", "merrowgate", "--wait");
    const told = (): boolean =>
      json(at, "check", "merrowgate", "--sku", "BC-1402").some(({ code }) => code === "refused-before");
    expect(told()).toBe(true);
    run(at, "set", "BC-1402", "--channel", "merrowgate", "color=black");
    expect(told()).toBe(false);
    await own.stop();
  });

  it("when what a job kept is gone, then it does not keep the next build from going", async () => {
    const { own, at } = await alone("chatterquay");
    await own.say({ channel: "chatterquay", mood: "busy", times: 100 });
    expect(run(at, "submit", "chatterquay").exit).toBe(3);
    await own.say({ channel: "chatterquay", mood: "busy", times: 0 });
    rmSync(`${at}/.lexicant/jobs/chatterquay/1/chatterquay-full-1.jsonl`);
    expect(run(at, "submit", "chatterquay")).toMatchObject({
      exit: 3,
      err: expect.stringContaining("is not what job 1 was to send") as string,
    });
    expect(run(at, "submit", "chatterquay", "--wait").out).toContain("47 accepted, 0 refused");
    // A file that somebody changed after it was built is not what the ledger knows.
    run(at, "set", "BC-1402", "price=9.20 GBP");
    run(at, "build", "chatterquay");
    write(at, "out/chatterquay/chatterquay.jsonl", `${read(at, "out/chatterquay/chatterquay.jsonl")}\n`);
    expect(run(at, "submit", "chatterquay").err).toContain("was changed after it was built");
    await own.stop();
  });

  it("when a sending is undone, then the channel counts as having what it had before", async () => {
    const { own, at } = await alone("chatterquay");
    run(at, "submit", "chatterquay", "--wait");
    run(at, "set", "BC-1402", "price=34 GBP");
    run(at, "set", "BC-1201-LARGE", "price=60 GBP");
    run(at, "build", "chatterquay");
    const before = ledgerOf(at, "chatterquay");
    run(at, "submit", "chatterquay", "--wait");
    const after = ledgerOf(at, "chatterquay");
    expect(after).not.toEqual(before);
    const sent = json(at, "history").find(({ kind }) => kind === "sent");
    run(at, "undo", String(sent?.["revision"]));
    const values = (entries: typeof before) => entries.map(({ sku, listing }) => [sku, listing]);
    expect(values(ledgerOf(at, "chatterquay"))).toEqual(values(before));
    await own.stop();
  });
});

describe("reports that are not as they should be", () => {
  it("when a report is cut, has half the rows, or rows of nobody, then each row counts once, and the rest is told", async () => {
    const { own, at } = await alone("chatterquay");
    for (const mood of ["cut-report", "half", "stranger"]) await own.say({ channel: "chatterquay", mood });
    const half = run(at, "submit", "chatterquay", "--wait");
    expect(half.exit).toBe(1);
    expect(half.out).toContain("24 accepted, 0 refused, 23 without an answer");
    expect(half.out).toContain("ask again later".replace("ask", "Ask"));
    expect(json(at, "ledger", "chatterquay").filter(({ state }) => state === "live")).toHaveLength(24);
    run(at, "set", "BC-1402", "price=31 GBP");
    run(at, "build", "chatterquay", "--changed");
    const strange = run(at, "submit", "chatterquay", "--wait");
    expect(strange.out).toContain(
      "2 rows of the report speak of nothing that was sent: NO-SUCH-ROW-1, NO-SUCH-ROW-2",
    );
    expect(json(at, "jobs")[0]).toMatchObject({ accepted: json(at, "jobs")[0]?.["listings"], refused: 0 });
    await own.stop();
  });

  it("when a report is another's, then nothing is noted; one that came by hand is taken for the job that it is of", async () => {
    const { own, at } = await alone("fjordhandel");
    write(at, "other.csv", "stock_no;result;reason_no;reason_en\nXX-1;done;;\nXX-2;no;7;why\n");
    expect(run(at, "results", "fjordhandel").err).toContain("nothing was sent to fjordhandel");
    run(at, "submit", "fjordhandel");
    const before = json(at, "ledger", "fjordhandel");
    const foreign = run(at, "results", "fjordhandel", "other.csv");
    expect([foreign.exit, foreign.err]).toEqual([
      2,
      expect.stringContaining("none of the report's 2 rows is of job 1"),
    ]);
    expect(json(at, "ledger", "fjordhandel")).toEqual(before);
    // One row is told by its number in the file alone, as a spreadsheet counts.
    const rows: string[][] = parse(read(at, "out/fjordhandel/fjordhandel.csv"), { delimiter: ";" });
    const number = rows.findIndex((cells) => cells[2] === "BC-1402") + 1;
    write(
      at,
      "own.csv",
      `line;stock_no;result;reason_no;reason_en;column\n3;BC-1201-LARGE;done;;;\n4;BC-1301-WHITE-M;no;7;"too ""grand"" a title";title_en\n${number};;no;9;by its number;\n`,
    );
    const { out } = run(at, "results", "fjordhandel", "own.csv");
    expect(out).toContain("1 accepted, 2 refused, 34 without an answer");
    expect(out).toMatch(/refused BC-1402\n +channel +9 by its number/);
    expect(run(at, "results", "fjordhandel", "missing.csv").exit).toBeGreaterThan(1);
    write(at, "broken.csv", "a;b\n1;2\n");
    expect(run(at, "results", "fjordhandel", "broken.csv").err).toContain("stock_no");
    await own.stop();
  });

  it("when a channel thinks again of what it had accepted, then what it had before counts again", async () => {
    const { own, at } = await alone("chatterquay");
    run(at, "submit", "chatterquay", "--wait");
    run(at, "set", "BC-1402", "price=33 GBP");
    run(at, "build", "chatterquay", "--changed");
    await own.say({ channel: "chatterquay", mood: "second-thoughts" });
    run(at, "submit", "chatterquay", "--wait");
    expect(ledgerOf(at, "chatterquay").find(({ sku }) => sku === "BC-1402")).toMatchObject({
      state: "live",
      job: 2,
    });
    const { out } = run(at, "results", "chatterquay", "--job", "2");
    expect(out).toContain("0 accepted, 1 refused");
    expect(out).toContain("1 listing that the channel had accepted is refused now");
    const entry = ledgerOf(at, "chatterquay").find(({ sku }) => sku === "BC-1402") as {
      state: string;
      listing: { price: string };
    };
    expect([entry.state, entry.listing.price]).toEqual(["refused", "6.90 GBP"]);
    await own.stop();
  });

  it("when two accounts of one channel stand side by side, then each has jobs and a ledger of its own", async () => {
    const { own, at } = await alone("chatterquay");
    const other = copyOf(at);
    write(
      other,
      "channels/quay-two/channel.yaml",
      read(other, "channels/chatterquay/channel.yaml").replace(
        /^select:.*$/m,
        'select: sku = "BC-1402" or sku = "BC-1402"',
      ),
    );
    for (const file of ["placements.csv", "fills.yaml", "lexicon.csv"])
      write(other, `channels/quay-two/${file}`, read(other, `channels/chatterquay/${file}`));
    write(
      other,
      "lexicant.yaml",
      read(other, "lexicant.yaml").replace("chatterquay]", "chatterquay, quay-two]"),
    );
    run(other, "build", "quay-two");
    run(other, "submit", "chatterquay", "--wait");
    const { out } = run(other, "submit", "quay-two", "--wait");
    expect(out).toContain("All is done");
    expect(json(other, "jobs").map(({ number, channel }) => [number, channel])).toEqual([
      [2, "quay-two"],
      [1, "chatterquay"],
    ]);
    expect(json(other, "ledger", "quay-two").length).toBeLessThanOrEqual(2);
    await own.stop();
  });
});
