import { rmSync } from "node:fs";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { describe, expect, it } from "vitest";
import { familyPlaces, FactsReader, type FamilyFacts } from "../../src/core/catalogue/plain-facts.js";
import type { Surroundings } from "../../src/core/language/function.js";
import { checkParts } from "../../src/flow/check/check-parts.js";
import { keptWork, type Look } from "../../src/flow/kept/kept-work.js";
import { loadChannels } from "../../src/flow/run-channels.js";
import { storeOf } from "../../src/flow/workspace-store.js";
import { openWorkspace } from "../../src/workspace/workspace.js";
import { demoShop } from "../kit/demo-shop.js";
import { copyOf, jsonLines, lexicant, write } from "../kit/run.js";

const SMALL = 7;
const surroundings: Surroundings = { today: { kind: "date", iso: "2026-11-27" } };

/** Each family, and all that was written of it. */
const written = (facts: FamilyFacts): readonly unknown[] =>
  familyPlaces(facts).map((place) => {
    const reader = FactsReader.of(place);
    const all = <T>(count: number, read: () => T): readonly T[] => Array.from({ length: count }, read);
    return [
      place.number,
      all(place.textsEnd - place.texts, () => reader.text()),
      all(place.numbersEnd - place.numbers, () => reader.number()),
      all(place.wordsEnd - place.words, () => reader.word()),
    ];
  });

/** What is found of a shop's families, where those who look let the others wait for them. */
const foundIn = async (shop: string): Promise<{ readonly found: unknown; readonly wasKept: boolean }> => {
  const workspace = await openWorkspace(shop);
  const store = await storeOf(workspace, { onlyReads: true });
  const open = { workspace, store, surroundings: () => Promise.resolve(surroundings) };
  const channels = await loadChannels(workspace, store, ["lanternlist"], surroundings);
  const work = await checkParts({ store }, channels, {});
  const look: Look = async (stretches, join) => {
    for (const { only = [] } of stretches)
      for (let at = 0; at < only.length; at += SMALL) {
        await pause(40);
        const own = only.slice(at, at + SMALL);
        const range = { from: own[0] ?? 0, until: (own.at(-1) ?? 0) + 1, only: own };
        join(await work(range), range);
      }
  };
  const kept = await keptWork<undefined>(open, channels, { work: "check" });
  const again = await kept.again(look);
  const found: unknown[] = [];
  if (again === undefined)
    for (const range of await store.stretches(1, SMALL)) {
      const part = await work(range);
      found.push(...written(part.facts));
      await kept.add({ ...part, range });
    }
  else
    for await (const stretch of again.stretches()) {
      found.push(...written(stretch.facts));
      await kept.add(stretch);
    }
  await kept.finish(undefined);
  await kept.close();
  await store.close();
  return { found, wasKept: again !== undefined };
};

describe("what is kept of work on all products", () => {
  it("when what changed is found while the rest is taken already, then each family comes once, as it is now", async () => {
    const shop = demoShop();
    expect((await foundIn(shop)).wasKept).toBe(false);
    const skus = jsonLines(lexicant(shop, ["list", "--json"]).out).map(({ sku }) => String(sku));
    const some = skus.filter((_, at) => at % 13 === 5).map((sku) => `${sku},199.00`);
    write(shop, "data/prices.csv", ["sku,price", ...some, "Z-1,5.00"].join("\n"));
    write(shop, "sources/prices.yaml", "layer: shop\ncolumns:\n  sku: sku\n  price: price\n");
    expect(lexicant(shop, ["import", "data/prices.csv", "--source", "prices"]).exit).toBe(0);
    const anew = copyOf(shop);
    const again = await foundIn(shop);
    expect(again.wasKept).toBe(true);
    rmSync(join(anew, ".lexicant", "kept"), { recursive: true });
    expect(again.found).toEqual((await foundIn(anew)).found);
    expect(await foundIn(shop)).toEqual({ found: again.found, wasKept: true });
  });
});
