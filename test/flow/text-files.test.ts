import { readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { partName } from "../../src/flow/builds/built-files.js";
import { textPieces } from "../../src/flow/builds/layout-pieces.js";
import { textFiles } from "../../src/flow/builds/text-files.js";
import type { FileFamily, FileRow } from "../../src/core/listing/shape/file-family.js";
import { landing } from "../../src/workspace/landing/landing.js";
import { temporaryFolder } from "../kit/run.js";

const row = (sku: string): FileRow => ({
  ...{ kind: "single", sku, listing: undefined, category: undefined },
  value: () => undefined,
});

const familyOf = (number: number, size: number): FileFamily => ({
  group: undefined,
  members: Array.from({ length: size }, (_, member) => row(`${number}.${member}`)),
});

/** A line a row: what a layout writes is not what is looked at here. */
const writer = {
  head: () => "head\n",
  family: ({ members }: FileFamily) => members.map(({ sku }) => `${sku}\n`).join(""),
  apart: { first: "", next: "" },
  tail: () => "tail\n",
};

const written = async (
  sizes: readonly number[],
  limits: { readonly rows?: number | undefined; readonly megabytes?: number | undefined },
  /** Families of each piece. */
  pieceSize = 1,
): Promise<readonly string[]> => {
  const folder = temporaryFolder();
  const own = landing({
    root: folder,
    command: "build",
    at: "2026-11-25T08:00:00.000Z",
    cwd: folder,
  });
  const staged = await own.into(folder);
  const layout = { file: "f.txt", encoding: "utf-8", packing: "none" } as const;
  const files = await textFiles(
    layout,
    writer,
    { rows: limits.rows, megabytes: limits.megabytes, nameOnce: false },
    staged,
  );
  const pieces = textPieces(writer, "utf-8");
  for (const [number, size] of sizes.entries()) {
    pieces.write(familyOf(number, size));
    if ((number + 1) % pieceSize === 0) await files.join(pieces.take());
  }
  await files.join(pieces.take());
  const built = await files.finish();
  await own.land();
  return built.map(({ name }, index) => {
    expect(name).toBe(partName("f.txt", index + 1));
    return readFileSync(join(folder, name), "utf8");
  });
};

describe("files within the channel's limits", () => {
  it("when rows or bytes are bounded, then every file keeps to it, nothing is lost, and no family is torn", () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 1, max: 5 }), { maxLength: 30 }),
        fc.option(fc.integer({ min: 5, max: 12 }), { nil: undefined }),
        fc.option(fc.integer({ min: 60, max: 120 }), { nil: undefined }),
        fc.integer({ min: 2, max: 40 }),
        async (sizes, rows, bytes, pieceSize) => {
          const limits = { rows, megabytes: bytes === undefined ? undefined : bytes / 1_000_000 };
          const texts = await written(sizes, limits);
          // However the families come, in pieces of many or of one, the files are the same.
          expect(await written(sizes, limits, pieceSize)).toEqual(texts);
          const all = texts.map((text) => {
            const lines = text.trimEnd().split("\n");
            expect([lines[0], lines.at(-1)]).toEqual(["head", "tail"]);
            const own = lines.slice(1, -1);
            if (rows !== undefined) expect(own.length).toBeLessThanOrEqual(rows);
            if (bytes !== undefined) expect(text.length).toBeLessThanOrEqual(bytes);
            return own;
          });
          expect(all.flat()).toEqual(
            sizes.flatMap((size, number) =>
              Array.from({ length: size }, (_, member) => `${number}.${member}`),
            ),
          );
          const families = all.map((own) => new Set(own.map((sku) => sku.split(".")[0])));
          const seen = families.flatMap((own) => [...own]);
          expect(new Set(seen).size).toBe(seen.length);
        },
      ),
      { numRuns: 40 },
    ));

  it("when nothing is to be written, then there is one file with head and tail", async () =>
    expect(await written([], {})).toEqual(["head\ntail\n"]));

  it("when a name has no ending, then its parts are numbered all the same", () =>
    expect([partName("a.b.csv", 3), partName("plain", 2), partName("x.csv", 1)]).toEqual([
      "a.b-3.csv",
      "plain-2",
      "x.csv",
    ]));
});
