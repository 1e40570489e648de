import { mkdirSync, rmSync, symlinkSync, utimesSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { readOnce } from "../../src/workspace/read-once.js";
import { read, temporaryFolder, write } from "../kit/run.js";

/** Longer than a change may hide in a file's times. */
const settled = (): Promise<void> => new Promise((done) => setTimeout(done, 130));

const reader = () => {
  const once = readOnce<{ readonly text: string }>();
  let count = 0;
  const folder = temporaryFolder();
  write(folder, "values/a.csv", "one");
  const ask = (world: readonly unknown[] = []) =>
    once([folder], world, () => {
      count++;
      return Promise.resolve({ text: read(folder, "values/a.csv") });
    });
  return { folder, ask, count: () => count };
};

describe("files that are read once a process", () => {
  it("when nothing changed, then the very same is given; when a file did, however soon, then what it says now", async () => {
    const { folder, ask, count } = reader();
    // Just written: what is read now may change without a sign, and is not kept.
    expect((await ask()).text).toBe("one");
    writeFileSync(join(folder, "values/a.csv"), "two");
    expect((await ask()).text).toBe("two");
    await settled();
    const kept = await ask();
    expect(await ask()).toBe(kept);
    const before = count();
    writeFileSync(join(folder, "values/a.csv"), "six");
    expect((await ask()).text).toBe("six");
    expect(count()).toBe(before + 1);
  });

  it("when a file comes, goes, or has its times put back, then all is read anew", async () => {
    const { folder, ask } = reader();
    await settled();
    const first = await ask();
    write(folder, "values/b.csv", "more");
    const second = await ask();
    expect(second).not.toBe(first);
    await settled();
    const third = await ask();
    rmSync(join(folder, "values/b.csv"));
    expect(await ask()).not.toBe(third);
    await settled();
    const fourth = await ask();
    writeFileSync(join(folder, "values/a.csv"), "ten");
    utimesSync(join(folder, "values/a.csv"), new Date(0), new Date(0));
    const last = await ask();
    expect([last === fourth, last.text]).toEqual([false, "ten"]);
  });

  it("when the world is another, or what makes it fails, then nothing of before is given", async () => {
    const { ask } = reader();
    await settled();
    const [one, other] = [{}, {}];
    const first = await ask([one]);
    expect(await ask([one])).toBe(first);
    expect(await ask([other])).not.toBe(first);
    const once = readOnce<number>();
    await expect(once([], [], () => Promise.reject(new Error("no")))).rejects.toThrow("no");
    expect(await once([], [], () => Promise.resolve(1))).toBe(1);
  });

  it("when folders lead round, then it ends", async () => {
    const folder = temporaryFolder();
    mkdirSync(join(folder, "a"));
    for (const name of ["a/b", "a/c", "d"]) symlinkSync(folder, join(folder, name));
    expect(await readOnce<number>()([folder], [], () => Promise.resolve(1))).toBe(1);
  });
});
