import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { TEXT_SEPARATOR } from "../../../src/core/catalogue/record.js";
import { DividedLater, TextPicker } from "../../../src/core/catalogue/stored-texts.js";

const text = fc.string({ unit: "grapheme", maxLength: 20 }).map((one) => one.replaceAll(TEXT_SEPARATOR, ""));
const texts = fc.array(text, { minLength: 1, maxLength: 8 });

describe("texts of a record that are stored as one", () => {
  it("when any records are asked for single texts, in any order, then each is what dividing all of them gives", () => {
    fc.assert(
      fc.property(
        fc.array(texts, { minLength: 1, maxLength: 5 }),
        fc.array(fc.tuple(fc.nat(4), fc.nat(8)), { maxLength: 40 }),
        (records, asked) => {
          const picker = new TextPicker();
          const stored = records.map((one) => new DividedLater(one.join(TEXT_SEPARATOR)));
          for (const [which, position] of asked) {
            const [record, whole] = [stored[which % stored.length], records[which % stored.length]];
            if (record === undefined) continue;
            expect(picker.at(record, position)).toBe(whole?.[position]);
            expect(picker.at({ texts: whole ?? [] }, position)).toBe(whole?.[position]);
          }
          expect(stored.map((one) => one.texts)).toEqual(records);
        },
      ),
    );
  });
});
