import { describe, expect, it } from "vitest";
import { channelCounts, exitFor } from "../../src/flow/channel-counts.js";
import { diagnostic, type Diagnostic } from "../../src/core/diagnostics/diagnostic.js";
import { FactsReader, FactsWriter } from "../../src/core/catalogue/plain-facts.js";
import { asSku } from "../../src/core/ids.js";
import { JudgedReader, writeJudged } from "../../src/core/listing/judged.js";

const after = (...because: readonly Diagnostic[]) => {
  const counts = channelCounts();
  if (because.length === 0) return counts;
  const [facts, reader] = [new FactsWriter(), new JudgedReader()];
  writeJudged({ kind: "unplaced", sku: asSku("A"), category: undefined, findings: because }, facts);
  counts.countKept(reader.next(new FactsReader(facts.take())));
  return counts;
};

describe("the exit code of check and build", () => {
  it("when all is ready, then 0; when a product is held, then 1; when a check failed, then 3", () => {
    const held = after(diagnostic("no-category", {}));
    const crashed = after(diagnostic("check-crashed", { check: "lengths", reason: "out of luck" }));
    expect([exitFor([held, held], 2), exitFor([held, held], 1)]).toEqual([0, 1]);
    expect([exitFor([after()]), exitFor([after(), held]), exitFor([held, crashed])]).toEqual([0, 1, 3]);
  });
});
