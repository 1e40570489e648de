import { describe, expect, it } from "vitest";
import { channelCounts, exitFor } from "../../src/commands/flow/channel-counts.js";
import { diagnostic, type Diagnostic } from "../../src/core/diagnostics/diagnostic.js";
import type { Product } from "../../src/core/catalogue/product.js";

const after = (...because: readonly Diagnostic[]) => {
  const counts = channelCounts();
  if (because.length > 0) counts.take({ kind: "held", product: {} as Product, because });
  return counts;
};

describe("the exit code of check and build", () => {
  it("when all is ready, then 0; when a product is held, then 1; when a check failed, then 3", () => {
    const held = after(diagnostic("no-category", {}));
    const crashed = after(diagnostic("check-crashed", { check: "lengths", reason: "out of luck" }));
    expect([exitFor([after()]), exitFor([after(), held]), exitFor([held, crashed])]).toEqual([0, 1, 3]);
  });
});
