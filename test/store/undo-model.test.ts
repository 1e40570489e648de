import { accessSync, constants, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { runs } from "../kit/runs.js";
import type { ImportMode, Store } from "../../src/store/store.js";
import { familiesOf, put, shown, storeIn } from "../kit/store.js";

/*
 * What the store must hold, told simply: a delivery is what it says, cell by cell. A product is there as long as a delivery
 * that holds and may add names it; a value is that of the highest layer that says one, there of the latest delivery.
 */
const attributes = ["group", "name", "color"] as const;

interface Delivery {
  readonly revision: number;
  readonly layer: string;
  readonly mode: ImportMode;
  readonly rows: ReadonlyMap<string, readonly string[]>;
  live: boolean;
}

// Thousands of stores, none of which has to outlive the machine: in memory, where there is such a folder.
const memory = "/dev/shm";
const isWritable = (folder: string): boolean => {
  try {
    accessSync(folder, constants.W_OK);
    return true;
  } catch {
    return false;
  }
};
const inMemory = isWritable(memory) ? memory : tmpdir();

const layers = ["low", "high"] as const;
const skus = ["A", "B", "C"] as const;

class Model {
  readonly deliveries: Delivery[] = [];
  private readonly undos = new Map<number, readonly number[]>();

  isThere(sku: string): boolean {
    return this.deliveries.some(({ live, mode, rows }) => live && mode !== "update" && rows.has(sku));
  }

  /** The rows that a delivery of this mode can take now. */
  taken(
    mode: ImportMode,
    rows: ReadonlyMap<string, readonly string[]>,
  ): ReadonlyMap<string, readonly string[]> {
    const isTaken = (sku: string): boolean =>
      mode === "both" || (mode === "update" ? this.isThere(sku) : !this.isThere(sku));
    return new Map([...rows].filter(([sku]) => isTaken(sku)));
  }

  value(sku: string, attribute: number): string {
    for (const layer of [...layers].reverse())
      for (const one of [...this.deliveries].reverse()) {
        const cell = one.layer === layer && one.live ? (one.rows.get(sku)?.[attribute] ?? "") : "";
        if (cell !== "") return cell === "(none)" ? "-" : cell;
      }
    return "-";
  }

  shown(sku: string): string {
    return this.isThere(sku) ? attributes.map((_, index) => this.value(sku, index)).join(",") : "no product";
  }

  families(): readonly string[] {
    const there = skus.filter((sku) => this.isThere(sku));
    const groups = new Map<string, string[]>();
    for (const sku of there) {
      const group = this.value(sku, 0);
      const key = group === "-" ? `alone ${sku}` : group;
      groups.set(key, [...(groups.get(key) ?? []), sku]);
    }
    return [...groups]
      .map(([key, members]) => `${key.startsWith("alone") ? "-" : key}: ${members.join(" ")}`)
      .sort();
  }

  undo(by: number, revisions: readonly number[]): void {
    this.undos.set(by, revisions);
    for (const revision of revisions) this.turn(revision, false);
  }

  private turn(revision: number, live: boolean): void {
    const undone = this.undos.get(revision);
    if (undone !== undefined) for (const inner of undone) this.turn(inner, !live);
    const delivery = this.deliveries.find((one) => one.revision === revision);
    if (delivery !== undefined) delivery.live = live;
  }

  /** What can be undone: deliveries that hold, and undos that hold. */
  readonly standing: number[] = [];
}

/** Members stand in the order in which the catalogue first saw them; here only who belongs together counts. */
const membersSorted = (family: string): string => {
  const [group = "", members = ""] = family.split(": ");
  return `${group}: ${members.split(" ").sort().join(" ")}`;
};

/** All that is said of each family, and by which rows of which deliveries. */
const contents = async (store: Store): Promise<ReadonlyMap<number, string>> => {
  const found = new Map<number, string>();
  for await (const batch of store.families())
    for (const { number, members } of batch) {
      const of = members.map((product) => [
        product.sku,
        ...product.attributes.names.map((_, slot) => [product.text(slot), product.origin(slot)]),
      ]);
      found.set(number, JSON.stringify(of));
    }
  return found;
};

const cell = fc.constantFrom("", "", "x", "y", "(none)");
const row = fc.tuple(fc.constantFrom("", "G", "H"), cell, cell);
const rows = fc
  .uniqueArray(fc.tuple(fc.constantFrom(...skus), row), { selector: ([sku]) => sku, minLength: 1 })
  .map((all) => new Map(all));
const delivery = fc.record({
  step: fc.constant("deliver" as const),
  layer: fc.constantFrom(...layers),
  mode: fc.constantFrom<ImportMode>("both", "both", "add", "update"),
  rows,
});
const again = fc.record({ step: fc.constant("deliver again" as const), which: fc.nat() });
const undo = fc.record({ step: fc.constant("undo" as const), which: fc.nat() });
const anyStep = fc.oneof(
  { weight: 4, arbitrary: delivery },
  { weight: 2, arbitrary: again },
  { weight: 3, arbitrary: undo },
);
const steps = fc.array(anyStep, { minLength: 2, maxLength: 9 });

type Step = typeof anyStep extends fc.Arbitrary<infer T> ? T : never;

const bare = (...named: (typeof skus)[number][]): Step => ({
  ...{ step: "deliver", layer: "high", mode: "both" },
  rows: new Map(named.map((sku) => [sku, ["", "", ""]])),
});

/** What a delivery only said again becomes its own word when the first is undone, and then goes with it. */
const saidAgainThenUndone: Step[] = [
  ...[bare("A"), bare("C", "A")],
  ...[0, 0].map((which): Step => ({ step: "undo", which })),
];

describe("what is there after any sequence of deliveries and undos", () => {
  it("when deliveries are made, repeated, undone and brought back, then the store holds what a simple model says", async () => {
    await fc.assert(
      fc.asyncProperty(steps, async (all) => {
        const folder = mkdtempSync(join(inMemory, "lexicant-model-"));
        const store = await storeIn(
          folder,
          layers.map((layer) => ({ layer })),
        );
        const model = new Model();
        const deliver = async (layer: string, mode: ImportMode, given: Delivery["rows"]): Promise<void> => {
          const taken = model.taken(mode, given);
          const lines = [...given].map(([sku, cells]) => [sku, ...cells].join(","));
          const { revision } = await put(store, layer, `sku,${attributes.join(",")}\n${lines.join("\n")}`, {
            mode,
          });
          // A delivery that brought nothing new leaves no trace, and holds nothing.
          if (revision === undefined) return;
          model.deliveries.push({ revision, layer, mode, rows: taken, live: true });
          model.standing.push(revision);
        };
        const first = await store.state();
        for (const one of all) {
          const [state, before] = [await store.state(), await contents(store)];
          if (one.step === "deliver") await deliver(one.layer, one.mode, one.rows);
          else if (one.step === "deliver again") {
            const before = model.deliveries[one.which % Math.max(1, model.deliveries.length)];
            if (before !== undefined) await deliver(before.layer, before.mode, before.rows);
          } else if (model.standing.length > 0) {
            const [revision = 0] = model.standing.splice(one.which % model.standing.length, 1);
            const transaction = await store.begin();
            const by = await transaction.undo([revision], "2026-11-25T08:00:00.000Z");
            await transaction.commit();
            model.undo(by, [revision]);
            model.standing.push(by);
          }
          for (const sku of skus)
            expect(`${sku} ${await shown(store, sku, attributes.join(","))}`).toBe(
              `${sku} ${model.shown(sku)}`,
            );
          expect((await familiesOf(store)).map(membersSorted).sort()).toEqual(model.families());
          // Whoever knows the families of before looks at all that are another now, and was told of a change by each state since.
          const now = await contents(store);
          const differing = [...new Set([...before.keys(), ...now.keys()])].filter(
            (number) => before.get(number) !== now.get(number),
          );
          expect(await store.familiesSince(state, 1000)).toEqual(expect.arrayContaining(differing));
          expect(await store.familiesSince(first, 1000)).toEqual(expect.arrayContaining([...now.keys()]));
          expect(await store.familiesSince(await store.state(), 0)).toEqual([]);
        }
        await store.close();
        rmSync(folder, { recursive: true });
      }),
      { numRuns: runs(100, 3000), examples: [[saidAgainThenUndone]] },
    );
    // On a disk each commit waits for it.
  }, 240_000);
});
