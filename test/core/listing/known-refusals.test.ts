import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  messagePattern,
  mindedPiece,
  refusalOf,
  type KnownRefusal,
} from "../../../src/core/listing/known-refusals.js";

const known = (message: string, code = ""): KnownRefusal => ({
  ...{ code, message, field: "", contains: "", means: "", act: "" },
});

const word = fc.stringMatching(/^[a-z]{2,10}$/);

describe("what a channel said once, known again", () => {
  it.each([
    ['the word "copper" is not wanted', "BC-1", 'the word "*" is not wanted'],
    ["12 are too many, 9 go in", "BC-1", "* are too many, * go in"],
    ["we show no BC-1 that could be changed", "BC-1", "we show no * that could be changed"],
  ])("when it says %s, then what differs from row to row is a star", (message, sku, pattern) => {
    expect(messagePattern(message, sku)).toBe(pattern);
  });

  it("when any message is made a pattern, then it is of it, and so is one with other words in its quotes", () => {
    fc.assert(
      fc.property(word, word, word, fc.nat(9999), fc.nat(9999), (said, one, other, first, second) => {
        const message = (piece: string, number: number): string => `${said} "${piece}" of ${number} rows`;
        const pattern = known(messagePattern(message(one, first), "BC-1"));
        expect(refusalOf([pattern], { code: "7", message: message(one, first) })).toBe(pattern);
        expect(refusalOf([pattern], { code: "7", message: message(other, second) })).toBe(pattern);
        expect(refusalOf([pattern], { code: "7", message: `x${said} "${other}" of ${second} rows` })).toBe(
          undefined,
        );
      }),
    );
  });

  it("when a code is known, then another code is another refusal", () => {
    expect(refusalOf([known("*", "240")], { code: "241", message: "x" })).toBe(undefined);
    expect(refusalOf([known("*", "240")], { code: "240", message: "anything" })).toBeDefined();
  });

  it("when a channel quotes a piece of a value, then that piece is what it minds; the whole value is none", () => {
    expect(mindedPiece('the word "copper" is not wanted', "Copper smoker")).toBe("copper");
    expect(mindedPiece('"Copper smoker" is not on our list', "copper smoker")).toBe("");
    expect(mindedPiece('the word "brass" is not wanted', "Copper smoker")).toBe("");
  });
});
