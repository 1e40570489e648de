// Groups with rows of their own, rules that change, undos: all three together, held against what they mean told simply.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { runs } from "../kit/runs.js";
import { familiesOf, put, shown, storeIn } from "../kit/store.js";

/*
 * A delivery says cells, of products and of groups. It also takes back what its source said by another rule before, where
 * it gives nothing for it now. A layer's word of a group lies under its words of the members. Who belongs to a group is
 * what is said of the member, never what is said of the group. A number without its zeros is no other value.
 */
const attributes = ["group", "name", "color"] as const;
type Attribute = (typeof attributes)[number];
const layers = ["low", "high"] as const;
const skus = ["A", "B", "C"] as const;
const groups = ["G", "H"] as const;

const BACK = "(back)";
type Cells = Readonly<Partial<Record<Attribute, string>>>;

interface Delivery {
  readonly revision: number;
  readonly layer: string;
  readonly source: string;
  readonly rules: number;
  /** By SKU, and by "@" and a group's name. */
  readonly cells: ReadonlyMap<string, Cells>;
  live: boolean;
}

/** By which rule a version of a source reads an attribute. */
const ruleOf = (rules: number, attribute: Attribute): string =>
  attribute === "name" ? `name ${rules % 2}` : attribute === "color" ? `color ${rules >> 1}` : attribute;

const isCut = (text: string, of: string): boolean =>
  /^[1-9]\d*$/.test(text) && of !== text && new RegExp(`^0+${text}$`).test(of);

class Model {
  readonly deliveries: Delivery[] = [];
  private readonly undos = new Map<number, readonly number[]>();

  /** The delivery that gave what a layer says of a thing, the latest first. */
  private giver(layer: string, about: string, attribute: Attribute): Delivery | undefined {
    const found = this.deliveries.findLast(
      (one) => one.layer === layer && one.live && (one.cells.get(about)?.[attribute] ?? "") !== "",
    );
    return found?.cells.get(about)?.[attribute] === BACK ? undefined : found;
  }

  /** What a delivery says when it comes now. */
  saying(layer: string, source: string, rules: number, rows: ReadonlyMap<string, Cells>): Delivery["cells"] {
    const said = new Map<string, Cells>();
    for (const [about, row] of rows) {
      const cells: Partial<Record<Attribute, string>> = {};
      for (const attribute of attributes) {
        const text = row[attribute] ?? "";
        const before = this.giver(layer, about, attribute);
        const isStale =
          before?.source === source && ruleOf(before.rules, attribute) !== ruleOf(rules, attribute);
        cells[attribute] = text === "" && isStale ? BACK : text;
      }
      said.set(about, cells);
    }
    return said;
  }

  isThere(sku: string): boolean {
    return this.deliveries.some(({ live, cells }) => live && cells.has(sku));
  }

  /** What a layer says of a thing by itself. */
  private word(layer: string, about: string, attribute: Attribute): string {
    let text = "";
    for (const one of this.deliveries) {
      const cell = one.layer === layer && one.live ? (one.cells.get(about)?.[attribute] ?? "") : "";
      if (cell === BACK) text = "";
      else if (cell !== "" && !isCut(cell, text)) text = cell;
    }
    return text;
  }

  value(sku: string, attribute: Attribute): string {
    const group = attribute === "group" ? "" : this.value(sku, "group");
    let value = "";
    for (const layer of layers)
      for (const about of attribute === "group" ? [sku] : [`@${group}`, sku]) {
        const text = this.word(layer, about, attribute);
        if (text !== "" && !isCut(text, value)) value = text;
      }
    return value;
  }

  shown(sku: string): string {
    if (!this.isThere(sku)) return "no product";
    return attributes.map((attribute) => this.value(sku, attribute) || "-").join(",");
  }

  families(): readonly string[] {
    const found = new Map<string, string[]>();
    for (const sku of skus.filter((one) => this.isThere(one))) {
      const key = this.value(sku, "group") || `alone ${sku}`;
      found.set(key, [...(found.get(key) ?? []), sku]);
    }
    return [...found]
      .map(([key, members]) => `${key.startsWith("alone") ? "-" : key}: ${members.join(" ")}`)
      .sort();
  }

  undo(by: number, revisions: readonly number[]): void {
    this.undos.set(by, revisions);
    for (const revision of revisions) this.turn(revision, false);
  }

  private turn(revision: number, live: boolean): void {
    for (const inner of this.undos.get(revision) ?? []) this.turn(inner, !live);
    const delivery = this.deliveries.find((one) => one.revision === revision);
    if (delivery !== undefined) delivery.live = live;
  }
}

const name = fc.constantFrom("", "", "x", "7", "007");
const color = fc.constantFrom("", "", "red", "blue");
const member = fc.record({ group: fc.constantFrom("", "G", "H"), name, color });
const ofGroup = fc.record({ name, color });
const rows = fc
  .tuple(
    fc.uniqueArray(fc.tuple(fc.constantFrom(...skus), member), { selector: ([sku]) => sku, minLength: 1 }),
    fc.uniqueArray(fc.tuple(fc.constantFrom(...groups), ofGroup), { selector: ([group]) => group }),
  )
  .map(([members, heads]) => {
    const all: readonly (readonly [string, Cells])[] = [
      ...members,
      ...heads.map(([group, cells]) => [`@${group}`, { ...cells, group: "" }] as const),
    ];
    return new Map(all);
  });
const delivery = fc.record({
  step: fc.constant("deliver" as const),
  layer: fc.constantFrom(...layers),
  source: fc.constantFrom("one", "one", "two"),
  rules: fc.integer({ min: 0, max: 3 }),
  rows,
});
const again = fc.record({
  step: fc.constant("again" as const),
  which: fc.nat(),
  rules: fc.option(fc.integer({ min: 0, max: 3 })),
});
const undo = fc.record({ step: fc.constant("undo" as const), which: fc.nat() });
const steps = fc.array(
  fc.oneof(
    { weight: 4, arbitrary: delivery },
    { weight: 3, arbitrary: again },
    { weight: 3, arbitrary: undo },
  ),
  { minLength: 2, maxLength: 9 },
);

const sorted = (family: string): string => {
  const [group = "", members = ""] = family.split(": ");
  return `${group}: ${members.split(" ").sort().join(" ")}`;
};

describe("groups with rows of their own, rules that change, and undos", () => {
  it("when they come in any order, then the store holds what a simple model says", async () => {
    await fc.assert(
      fc.asyncProperty(steps, async (all) => {
        const folder = mkdtempSync(join(tmpdir(), "lexicant-rows-"));
        const store = await storeIn(
          folder,
          layers.map((layer) => ({ layer })),
        );
        const model = new Model();
        const standing: number[] = [];
        const given: { layer: string; source: string; rules: number; rows: ReadonlyMap<string, Cells> }[] =
          [];
        for (const one of all) {
          if (one.step === "undo") {
            if (standing.length === 0) continue;
            const [revision = 0] = standing.splice(one.which % standing.length, 1);
            const transaction = await store.begin();
            const by = await transaction.undo([revision], "2026-11-25T08:00:00.000Z");
            await transaction.commit();
            model.undo(by, [revision]);
            standing.push(by);
          } else {
            const former = one.step === "again" ? given[one.which % Math.max(1, given.length)] : one;
            if (former === undefined) continue;
            const { layer, source, rows: table } = former;
            const rules = one.rules ?? former.rules;
            given.push({ layer, source, rules, rows: table });
            const cells = model.saying(layer, source, rules, table);
            const lines = [...table].map(([about, row]) =>
              about.startsWith("@")
                ? `@,${about.slice(1)},${row.name ?? ""},${row.color ?? ""}`
                : `${about},${row.group ?? ""},${row.name ?? ""},${row.color ?? ""}`,
            );
            const columns = { name: ruleOf(rules, "name"), color: ruleOf(rules, "color"), group: "group" };
            const { revision } = await put(store, layer, `sku,group,name,color\n${lines.join("\n")}`, {
              source,
              rules: { columns, rest: "" },
            });
            if (revision === undefined) continue;
            model.deliveries.push({ revision, layer, source, rules, cells, live: true });
            standing.push(revision);
          }
          for (const sku of skus)
            expect(`${sku} ${await shown(store, sku, attributes.join(","))}`).toBe(
              `${sku} ${model.shown(sku)}`,
            );
          expect((await familiesOf(store)).map(sorted).sort()).toEqual(model.families());
        }
        await store.close();
        rmSync(folder, { recursive: true });
      }),
      { numRuns: runs(60, 3000) },
    );
  }, 240_000);
});
