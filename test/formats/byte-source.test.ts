import { appendFileSync, renameSync, truncateSync, utimesSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Refusal } from "../../src/core/diagnostics/refusal.js";
import { allBytes, fileSource } from "../../src/formats/byte-source.js";
import { temporaryFolder, write } from "../kit/run.js";

const folder = temporaryFolder();

const LIMIT = 16 << 20;

/** Reads a file of 3 MB, of which something happens after its first bytes. */
const readWhile = async (happens: (path: string) => void): Promise<string> => {
  const content = "a line\n".repeat(450_000);
  const path = write(folder, "goods.csv", content);
  const source = await fileSource(path, "goods.csv");
  await source.head();
  happens(path);
  try {
    return (await allBytes(source, LIMIT)).toString() === content ? "whole" : "torn";
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return error.findings.map(({ code }) => code).join();
  } finally {
    await source.close();
  }
};

describe("a file that is read", () => {
  it("when it has any length, then all of its bytes come, the first of them also before", async () => {
    const chunk = 1 << 20;
    await fc.assert(
      fc.asyncProperty(
        fc.oneof(fc.nat(40), fc.constantFrom(chunk - 1, chunk, chunk + 1, 2 * chunk)),
        fc.boolean(),
        async (length, isLooked) => {
          const content = Buffer.alloc(length, "0123456789abc");
          const source = await fileSource(write(folder, "any", content), "any");
          if (isLooked) expect(content.indexOf(await source.head())).toBe(0);
          expect((await allBytes(source, LIMIT)).equals(content)).toBe(true);
          expect(source.bytesRead()).toBe(length);
        },
      ),
      { numRuns: 40 },
    );
  });

  it.each<[string, string, (path: string) => void]>([
    ["nothing happens", "whole", () => undefined],
    ["a program adds to it", "file-changed", (path) => appendFileSync(path, "one more\n")],
    ["a program writes it anew", "file-changed", (path) => writeFileSync(path, "short\n")],
    ["a program cuts it", "file-changed", (path) => truncateSync(path, 2 << 20)],
    ["a program overwrites it", "file-changed", (path) => utimesSync(path, 1, 1)],
    [
      "another whole file comes in its place",
      "whole",
      (path) => renameSync(write(folder, "next.csv", "another file\n"), path),
    ],
    ["it goes away", "whole", (path) => renameSync(path, join(folder, "gone.csv"))],
  ])("when %s meanwhile, then the answer is %s", async (_, answer, happens) => {
    expect(await readWhile(happens)).toBe(answer);
  });
});
