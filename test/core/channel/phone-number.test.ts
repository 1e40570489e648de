import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { phoneNumber } from "../../../src/core/channel/phone-number.js";

describe("telephone numbers in a text", () => {
  it.each([
    "Questions? Ring 01632 960123 between nine and five.",
    "+44 1632 960 123",
    "Tel. (01632) 960-123",
    "Rufen Sie an: 030 90182 0000",
    "Write or call 0800/1234567 any day",
    "phone:01632960123",
    "(+49) 030 / 9018 2000".replace("(+49)", "+49"),
  ])("when it reads %j, then there is one", (text) => {
    expect(phoneNumber(text)).toBeDefined();
  });

  it.each([
    "Replaces part no. 0441 632 960",
    "Article 01632 960 123",
    "BC-0401-22-000-17",
    "GTIN 09524000001016",
    "09524000001016",
    "Measures 0.125 x 0.250 x 0.500",
    "Packed in lots of 10 000 000",
    "2026-05-01 to 2027-05-01",
    "From 01/05/2026",
    "Sow 01/03/26 - 15/05/26",
    "Bolts 010203040506",
    "12.500.000 seeds",
    "Model 0800-1234-5678",
    "Serves 4 - 6, weighs 1 250 g",
    "ISBN 978-0-00-000000-2",
  ])("when it reads %j, then there is none", (text) => {
    expect(phoneNumber(text)).toBeUndefined();
  });

  it("when any number stands with its country's sign, then it is found, whatever stands around it", () => {
    const digits = fc.stringMatching(/^[1-9]\d{8,11}$/);
    const around = fc.constantFrom("", "Ask us: ", "(", "At any time ");
    fc.assert(
      fc.property(around, digits, (before, number) => {
        expect(phoneNumber(`${before}+${number} .`)).toBe(`+${number}`);
      }),
    );
  });
});
