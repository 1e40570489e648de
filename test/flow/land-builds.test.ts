import { describe, expect, it } from "vitest";
import { landBuilds } from "../../src/flow/build/land-builds.js";

/** Builds that write down what is asked of them; one of them may be one that cannot be finished. */
const builds = (faulty?: string, empty?: string) => {
  const said: string[] = [];
  const all = ["hall", "quay", "fair"].map((name) => ({
    isEmpty: name === empty,
    finish: () => {
      said.push(`finish ${name}`);
      return name === faulty ? Promise.reject(new Error("no room")) : Promise.resolve([]);
    },
    publish: () => Promise.resolve(void said.push(`publish ${name}`)),
    discard: () => Promise.resolve(void said.push(`discard ${name}`)),
  }));
  return { all, said };
};

describe("the builds of several channels", () => {
  it("when all can be finished, then none appears before all are", async () => {
    const { all, said } = builds();
    await landBuilds(all, false);
    expect(said.map((text) => text.split(" ")[0])).toEqual([
      ...["finish", "finish", "finish"],
      ...["publish", "publish", "publish"],
    ]);
  });

  it("when one cannot be finished, then none appears", async () => {
    const { all, said } = builds("quay");
    await expect(landBuilds(all, false)).rejects.toThrow("no room");
    expect(said).toEqual(["finish hall", "finish quay"]);
  });

  it("when one has no listing, then what stood there stays, and the others appear", async () => {
    const { all, said } = builds(undefined, "quay");
    const files = await landBuilds(all, false);
    expect(said).toEqual(["discard quay", "finish hall", "finish fair", "publish hall", "publish fair"]);
    expect(all.map((build) => files.has(build))).toEqual([true, false, true]);
  });

  it("when it is a trial, then nothing is finished", async () => {
    const { all, said } = builds();
    await landBuilds(all, true);
    expect(said).toEqual(["discard hall", "discard quay", "discard fair"]);
  });
});
