import type { ResultKind } from "../../src/core/language/kind.js";
import { decimal } from "../../src/core/values/decimal.js";
import { readValue } from "../../src/core/values/read.js";
import type { MaybeBlank } from "../../src/core/values/value.js";

const value = (kind: "measure" | "money" | "date", text: string): MaybeBlank => {
  const reading = readValue(kind, text);
  return "value" in reading ? reading.value : undefined;
};

/** One product as expressions see it: attributes of every kind, two of them blank. */
export const given: Readonly<Record<string, readonly [ResultKind, MaybeBlank]>> = {
  name: ["text", "Cedar Hive"],
  brand: ["text", "Tarnbeck"],
  color: ["text", undefined],
  size: ["text", "10 frames"],
  category: ["text", "Beekeeping > Hives > Complete hives"],
  price: ["money", value("money", "219 GBP")],
  "price@EUR": ["money", undefined],
  "price@NOK": ["money", undefined],
  quantity: ["number", decimal("3")],
  weight: ["measure", value("measure", "14.8 kg")],
  width: ["measure", value("measure", "46 cm")],
  images: ["list", ["a.jpg", "b.jpg"]],
  features: ["list", ["Cedar", "Flat roof"]],
  digital: ["yes-no", false],
  sale_from: ["date", value("date", "2026-03-05")],
  "Maker's no": ["text", "T-1"],
};
