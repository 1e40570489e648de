import { describe, expect, it } from "vitest";
import { fromSiblings } from "../../../src/core/gaps/propose-answer.js";
import { familyOf } from "../../kit/listing.js";

describe("what siblings propose", () => {
  const all = { brand: "Tarnbeck", gtin: "9524000001016", mpn: "T-1", isbn: "9780000000002", name: "Bell" };
  const family = familyOf([
    { sku: "A", group: "G" },
    { sku: "B", group: "G", ...all },
  ]);
  const of = (attribute: string): string | undefined =>
    fromSiblings(attribute, family.members[0]!, family)?.value;

  it("when what they all have is shared by its nature, then it is proposed", () => {
    expect(of("brand")).toBe("Tarnbeck");
  });

  it.each(["gtin", "mpn", "isbn", "name"])(
    "when each has its own %s, then a sibling's is not proposed",
    (attribute) => {
      expect(of(attribute)).toBeUndefined();
    },
  );
});
