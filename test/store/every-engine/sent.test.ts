import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { LiveListing } from "../../../src/core/listing/live-listing.js";
import type { BuildKind, ChannelLedger } from "../../../src/store/ledger.js";
import type { Store } from "../../../src/store/store.js";
import { noteAll, newStore } from "../../kit/store.js";
import { runs } from "../../kit/runs.js";

const DAY = "2026-11-25T11:00:00Z";

const listing = (title: string, withdrawn = false): LiveListing => ({
  ...{ name: title, gtin: undefined, price: "1.00 GBP", category: "c", axes: "", group: undefined },
  ...(withdrawn ? { withdrawn } : {}),
  values: { title },
});

const build = async (
  ledger: ChannelLedger,
  kind: BuildKind,
  titles: Readonly<Record<string, string>>,
  file = `${kind}.csv`,
): Promise<void> => {
  const notes = await ledger.begin("full", DAY, kind);
  await noteAll(
    notes,
    Object.entries(titles).map(([sku, title]) => [sku, listing(title)] as const),
  );
  await notes.commit([file]);
};

const undo = async (store: Store, revision: number): Promise<number> => {
  const transaction = await store.begin();
  try {
    const id = await transaction.undo([revision], DAY);
    await transaction.commit();
    return id;
  } catch (error) {
    await transaction.rollback();
    throw error;
  }
};

/** What the channel has, as a person would write it down: a title, with a cross before it where it has ended; the day behind. */
const live = async (ledger: ChannelLedger): Promise<Readonly<Record<string, string>>> => {
  const found: Record<string, string> = {};
  for await (const batch of ledger.entries())
    for (const { sku, listing: one, at } of batch)
      found[sku] = `${one.withdrawn === true ? "x" : ""}${one.values["title"] ?? ""} ${at}`;
  return found;
};

describe("a build that was sent", () => {
  it("when builds of other kinds follow, then each holds until the next of its own, and any can be the one that was sent", async () => {
    const store = await newStore("shop");
    const ledger = store.ledgerOf("quay");
    await build(ledger, "full", { A: "a", B: "b" });
    await build(ledger, "chosen", { B: "new" });
    expect((await ledger.builds()).map(({ kind, number }) => [kind, number])).toEqual([
      ["chosen", 2],
      ["full", 1],
    ]);
    expect((await ledger.of({ skus: ["A"], state: "built" })).size).toBe(1);
    await ledger.markSent({ kind: "full", at: DAY, whole: false, isTrial: false });
    expect(await live(ledger)).toEqual({ A: `a ${DAY}`, B: `b ${DAY}` });
    await ledger.markSent({ kind: "chosen", at: DAY, whole: false, isTrial: false });
    expect(await live(ledger)).toEqual({ A: `a ${DAY}`, B: `new ${DAY}` });
    await store.close();
  });

  it("when it is undone and another was sent since, then that is refused; as a trial nothing changes", async () => {
    const store = await newStore("shop");
    const ledger = store.ledgerOf("quay");
    await build(ledger, "full", { A: "a" });
    const wish = { kind: "full", at: DAY, whole: true, isTrial: false } as const;
    expect(await ledger.markSent({ ...wish, isTrial: true })).toEqual({
      listings: 1,
      ended: 0,
      revision: undefined,
    });
    expect(await live(ledger)).toEqual({});
    const first = await ledger.markSent(wish);
    await build(ledger, "full", { B: "b" });
    expect(await ledger.markSent(wish)).toMatchObject({ listings: 1, ended: 1 });
    expect(await live(ledger)).toEqual({ A: `xa ${DAY}`, B: `b ${DAY}` });
    await expect(undo(store, first.revision ?? 0)).rejects.toThrow("sent-since");
    expect(await live(ledger)).toEqual({ A: `xa ${DAY}`, B: `b ${DAY}` });
    await store.close();
  });

  it("when builds are sent, undone and undone again at will, then the channel has what a list on paper says", async () => {
    const titles = fc.dictionary(fc.constantFrom("A", "B", "C", "D"), fc.constantFrom("one", "two"), {
      minKeys: 1,
    });
    const step = fc.oneof(
      fc.record({ what: fc.constant("send" as const), titles, whole: fc.boolean() }),
      fc.record({ what: fc.constant("turn" as const) }),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 12 }), async (steps) => {
        const store = await newStore("shop");
        const ledger = store.ledgerOf("quay");
        let [now, before]: Readonly<Record<string, string>>[] = [{}, {}];
        let latest: number | undefined;
        for (const [index, one] of steps.entries()) {
          const at = `2026-11-25T11:00:${String(index).padStart(2, "0")}Z`;
          if (one.what === "send") {
            await build(ledger, "full", one.titles);
            const { revision } = await ledger.markSent({
              kind: "full",
              at,
              whole: one.whole,
              isTrial: false,
            });
            latest = revision;
            before = now;
            const ended = Object.entries(now ?? {}).map(([sku, said]) => [
              sku,
              one.whole && !said.startsWith("x") ? `x${said.split(" ")[0] ?? ""} ${at}` : said,
            ]);
            const sent = Object.entries(one.titles).map(([sku, title]) => [sku, `${title} ${at}`]);
            now = Object.fromEntries([...ended, ...sent]) as Record<string, string>;
          } else if (latest !== undefined) {
            latest = await undo(store, latest);
            [now, before] = [before, now];
          }
          expect(await live(ledger)).toEqual(now);
        }
        await store.close();
      }),
      { numRuns: runs(20, 600) },
    );
  });
});
