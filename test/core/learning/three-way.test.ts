import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { mergedTable } from "../../../src/core/learning/three-way.js";

type Row = Readonly<Record<string, string>>;

const word = fc.constantFrom("", "a", "b", "c");
const rows = fc.uniqueArray(
  fc.record({ key: fc.constantFrom("k1", "k2", "k3", "k4", "k5"), one: word, two: word }),
  { selector: ({ key }) => key, maxLength: 5 },
);

/** A table with edits applied as a file would have them. */
const applied = (now: readonly Row[], merged: ReturnType<typeof mergedTable>): ReadonlyMap<string, Row> => {
  const gone = new Set(merged.gone.map(({ key }) => key));
  const found = new Map(now.filter(({ key }) => !gone.has(key)).map((row) => [row["key"] ?? "", row]));
  for (const edit of merged.edits) found.set(edit["key"] ?? "", { ...found.get(edit["key"] ?? ""), ...edit });
  return found;
};

describe("what is learned again beside a person's changes", () => {
  it("when nobody changed anything, then what is learned now stands there", () => {
    fc.assert(
      fc.property(rows, rows, (before, next) => {
        const found = applied(before, mergedTable(before, before, next, ["key"]));
        expect(
          [...found.values()].map((row) => ({ ...row })).sort((a, b) => (a["key"]! < b["key"]! ? -1 : 1)),
        ).toEqual([...next].sort((a, b) => (a.key < b.key ? -1 : 1)));
      }),
    );
  });

  it("when a person changed, added or took away, then that stays, whatever is learned", () => {
    fc.assert(
      fc.property(rows, rows, rows, (before, now, next) => {
        const found = applied(now, mergedTable(before, now, next, ["key"]));
        const [was, is] = [
          new Map(before.map((row) => [row.key, row])),
          new Map(now.map((row) => [row.key, row])),
        ];
        for (const [key, row] of is)
          for (const column of ["one", "two"] as const) {
            if (was.get(key)?.[column] !== row[column] && was.has(key))
              expect(found.get(key)?.[column]).toBe(row[column]);
            if (!was.has(key) && row[column] !== "") expect(found.get(key)?.[column]).toBe(row[column]);
          }
        for (const key of was.keys()) if (!is.has(key)) expect(found.has(key)).toBe(false);
      }),
    );
  });

  it("when the same cell was changed by both, then it is told and the person's stays", () => {
    const merged = mergedTable(
      [{ key: "t", max: "80" }],
      [{ key: "t", max: "75" }],
      [{ key: "t", max: "60" }],
      ["key"],
    );
    expect(merged).toEqual({
      edits: [],
      gone: [],
      kept: [{ key: "t", column: "max", ours: "75", learned: "60" }],
    });
  });
});
