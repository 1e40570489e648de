import { describe, expect, it } from "vitest";
import { landBuilds } from "../../src/flow/builds/land-builds.js";

/** Builds that write down what is asked of them; one of them may be one that cannot be finished. */
const builds = (faulty?: string, empty?: string) => {
  const said: string[] = [];
  const all = ["hall", "quay", "fair"].map((name) => ({
    isEmpty: name === empty,
    finish: () => {
      said.push(`finish ${name}`);
      return name === faulty ? Promise.reject(new Error("no room")) : Promise.resolve([]);
    },
    hold: () => Promise.resolve(void said.push(`hold ${name}`)),
    discard: () => Promise.resolve(void said.push(`discard ${name}`)),
  }));
  const open = {
    store: {
      together: async (mark: string, work: () => Promise<void>) => {
        await work();
        said.push(`commit ${mark}`);
      },
    },
    landing: { land: (decide?: (mark: string) => Promise<void>) => decide?.("m") ?? Promise.resolve() },
  } as unknown as Parameters<typeof landBuilds>[0];
  return { all, said, open };
};

describe("the builds of several channels", () => {
  it("when all can be finished, then none appears before all are", async () => {
    const { all, said, open } = builds();
    await landBuilds(open, all, false);
    expect(said.map((text) => text.split(" ")[0])).toEqual([
      ...["finish", "finish", "finish"],
      ...["hold", "hold", "hold", "commit"],
    ]);
  });

  it("when one cannot be finished, then none appears", async () => {
    const { all, said, open } = builds("quay");
    await expect(landBuilds(open, all, false)).rejects.toThrow("no room");
    expect(said).toEqual(["finish hall", "finish quay"]);
  });

  it("when one has no listing, then what stood there stays, and the others appear", async () => {
    const { all, said, open } = builds(undefined, "quay");
    const files = await landBuilds(open, all, false);
    expect(said).toEqual([
      "discard quay",
      "finish hall",
      "finish fair",
      "hold hall",
      "hold fair",
      "commit m",
    ]);
    expect(all.map((build) => files.has(build))).toEqual([true, false, true]);
  });

  it("when it is a trial, then nothing is finished", async () => {
    const { all, said, open } = builds();
    await landBuilds(open, all, true);
    expect(said).toEqual(["discard hall", "discard quay", "discard fair"]);
  });
});
