import { describe, expect, it } from "vitest";
import { channelCounts, exitFor } from "../../src/flow/channel-counts.js";
import { diagnostic, type Diagnostic } from "../../src/core/diagnostics/diagnostic.js";
import { productOf } from "../kit/listing.js";

const after = (...because: readonly Diagnostic[]) => {
  const counts = channelCounts();
  if (because.length > 0) counts.take({ kind: "unplaced", product: productOf({}), findings: because });
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
