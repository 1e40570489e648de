import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { LiveListing } from "../../src/core/listing/live-listing.js";
import { keptListing } from "../../src/core/listing/live-text.js";
import type { ChannelLedger } from "../../src/store/ledger.js";
import { newStore } from "../kit/store.js";

const listing = (price: string, group: string): LiveListing => ({
  ...{ name: "Stool", gtin: undefined, price, category: "g.t", axes: "", group: group || undefined },
  values: { title: "Stool" },
});

interface Member {
  readonly sku: string;
  readonly price: string;
}

/** What a build holds: families by number, with their members; and how it ends. */
interface Build {
  readonly families: ReadonlyMap<number, readonly Member[]>;
  readonly ends: "held" | "dropped" | "broken off";
}

const member = fc.record({
  sku: fc.constantFrom("A", "B", "C", "D", "E"),
  price: fc.constantFrom("1.00 GBP", "2.00 GBP"),
});
const build: fc.Arbitrary<Build> = fc.record({
  families: fc
    .array(fc.tuple(fc.nat(12), fc.array(member, { minLength: 1, maxLength: 3 })), { maxLength: 8 })
    .map((all) => new Map([...all].sort(([a], [b]) => a - b))),
  ends: fc.constantFrom("held", "held", "held", "dropped", "broken off"),
});

const skuOf = (family: number, at: number, { sku }: Member): string => `${family}-${at}-${sku}`;

const heldBy = async (ledger: ChannelLedger): Promise<Readonly<Record<string, string>>> => {
  const found: Record<string, string> = {};
  for await (const batch of ledger.entries("built"))
    for (const { sku, listing: own } of batch) found[sku] = `${own.price ?? ""} ${own.group ?? ""}`;
  return found;
};

describe("the book of a build", () => {
  it("when any builds follow each other, then the last that was held is what the ledger knows, row by row", async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(build, { minLength: 1, maxLength: 6 }), async (builds) => {
        const store = await newStore("shop");
        const ledger = store.ledgerOf("quay");
        let expected: Readonly<Record<string, string>> = {};
        for (const [at, { families, ends }] of builds.entries()) {
          const notes = await ledger.begin("full", `2026-11-27T10:00:0${at}Z`, "full");
          const own: Record<string, string> = {};
          for (const [family, members] of families)
            for (const [place, one] of members.entries()) {
              const sku = skuOf(family, place, one);
              own[sku] = `${one.price} G${family}`;
              // A family's rows may come one by one.
              await notes.note(family, [keptListing(sku, listing(one.price, `G${family}`))]);
            }
          if (ends === "held") {
            await notes.commit(["f.csv"]);
            expected = own;
          } else if (ends === "dropped") await notes.discard();
          expect(await heldBy(ledger)).toEqual(expected);
        }
        await store.close();
      }),
      { numRuns: 40 },
    );
  });
});
