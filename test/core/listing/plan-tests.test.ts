import { describe, expect, it } from "vitest";
import type { ChannelSetup } from "../../../src/core/listing/channel-setup.js";
import { planTests } from "../../../src/core/listing/check/plan-tests.js";
import type { PlannedCategory } from "../../../src/core/listing/plan.js";

describe("the tests of a plan", () => {
  it("when a check crashes while it makes its test, then that comes out on each value, and the others are made", () => {
    const limits = {
      get maxLength(): number {
        throw new Error("out of luck");
      },
      maxItems: 1,
    };
    const field = { slot: 3, code: "title", kind: "text", label: "Title", list: true };
    const plan = { fields: [{ rule: { field, limits, need: "optional", conditionalNeeds: [] } }] };
    const setup = { definition: { banned: [], currencies: [], roles: {}, layouts: [], purposeRules: [] } };
    const [tests] = planTests(setup as unknown as ChannelSetup)({
      ...plan,
      bySlot: [],
      rules: { crossRules: [] },
    } as unknown as PlannedCategory).fields;
    expect(tests?.tests.map(({ name }) => name)).toEqual(["text-length", "item-count"]);
    const told: string[] = [];
    expect(() => tests?.tests[0]?.test("any", (code) => told.push(code))).toThrow("out of luck");
    tests?.tests[1]?.test(["a", "b"], (code) => told.push(code));
    expect(told).toEqual(["too-many-values"]);
  });
});
