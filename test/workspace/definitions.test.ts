import { describe, expect, test } from "vitest";
import { attributeIndex } from "../../src/core/catalogue/attribute-index.js";
import { vocabulary } from "../../src/core/catalogue/vocabulary.js";
import { categoryRules } from "../../src/core/channel/category-rules.js";
import type { Field } from "../../src/core/channel/field.js";
import { sentence } from "../../src/workspace/wording.js";
import { program } from "../../src/core/language/program.js";
import { fillNames } from "../../src/core/listing/fill/fill-names.js";
import { findDefinitions, loadDefinition } from "../../src/workspace/definition-files.js";
import { surroundings } from "../kit/evaluate.js";

const shipped = await findDefinitions([{ path: "definitions", shown: "definitions" }]);
const loaded = await Promise.all(shipped.map((folder) => loadDefinition(folder, surroundings)));
const definitionOf = (channel: string) => {
  const found = loaded.find((definition) => definition.channel === channel);
  if (found === undefined) throw new Error(`no ${channel}`);
  return found;
};

// What a shop may have beside the plain words: texts in a language, prices in a currency.
const attributes = vocabulary.flatMap((name) => [
  name,
  ...["de", "EUR", "SEK", "NOK"].map((suffix) => `${name}@${suffix}`),
]);
test("six channels ship, each of the size of its style", () => {
  const size = (channel: string): number => definitionOf(channel).tree.all.length;
  expect(loaded.map(({ channel }) => channel)).toEqual([
    "chatterquay",
    "fjordhandel",
    "gavelstead",
    "lanternlist",
    "merrowgate",
    "storefront",
  ]);
  expect(size("merrowgate")).toBeGreaterThanOrEqual(1500);
  expect(size("gavelstead")).toBeGreaterThanOrEqual(400);
  expect(size("fjordhandel")).toBeGreaterThanOrEqual(300);
  expect(size("lanternlist")).toBeGreaterThanOrEqual(150);
});

describe.each(loaded)("$label", (definition) => {
  test("its suggested fills use only the vocabulary and functions that there are", () => {
    const names = fillNames(attributeIndex(attributes), definition);
    const faults = definition.fields.flatMap(({ code, suggestedFill }: Field) => {
      const source = { text: suggestedFill, place: { file: code, line: 1 } };
      const compiled = suggestedFill === "" ? undefined : program(source, names, surroundings);
      return compiled?.kind === "faulty"
        ? compiled.findings.map((found) => `${code}: ${sentence(found)}`)
        : [];
    });
    expect(faults).toEqual([]);
  });

  test("each of its choices has its list in every category", () => {
    const open = definition.tree.all.flatMap((category) =>
      categoryRules(definition, category)
        .fields.filter(({ field, limits }) => field.kind === "choice" && limits.values === undefined)
        .map(({ field }) => `${field.code} in ${category.code}`),
    );
    expect(open).toEqual([]);
  });

  test("each field has a label and, unless it takes yes or no, an example that its own list takes", () => {
    for (const { field, limits } of definition.rules) {
      expect(field.label).not.toBe("");
      expect(field.example, field.code).not.toBe("");
      if (limits.values !== undefined && limits.isOpenList !== true && field.code === "size") continue;
      if (limits.values !== undefined && limits.isOpenList !== true)
        expect(limits.values.match(field.example), `${field.code} in ${limits.values.name}`).toBeDefined();
      if (limits.pattern !== undefined)
        expect(limits.pattern.matches(field.example), `${field.code}: ${field.example}`).toBe(true);
      if (limits.maxLength !== undefined)
        expect(field.example.length, field.code).toBeLessThanOrEqual(limits.maxLength);
    }
  });

  test("every category that can be listed in demands a reference, and its path is its own", () => {
    const paths = new Set(definition.tree.all.map(({ path }) => path));
    expect(paths.size).toBe(definition.tree.all.length);
    for (const category of definition.tree.all.filter(({ isOpen }) => isOpen)) {
      const required = categoryRules(definition, category)
        .fields.filter(({ need }) => need === "required")
        .map(({ field }) => field.code);
      expect(required).toContain(definition.identifiedBy);
    }
  });

  test("its layouts show the field that identifies a listing", () => {
    for (const { columns } of definition.layouts)
      expect(columns.map(({ field }) => field.code)).toContain(definition.identifiedBy);
  });
});

test("what a channel calls a value in its other language means the value", () => {
  const colour = definitionOf("fjordhandel").rules.find(({ field }) => field.code === "colour");
  expect(colour?.field.otherLabels).toEqual(["Farbe"]);
  expect(["Grün", "moss green", "green"].map((text) => colour?.limits.values?.match(text))).toEqual(
    Array(3).fill("green"),
  );
});

test("limits and services differ by category", () => {
  const definition = definitionOf("gavelstead");
  const limitsIn = (path: string, code: string) => {
    const category = definition.tree.named(path);
    if (category === undefined) throw new Error(`no ${path}`);
    const found = categoryRules(definition, category).fields.find(({ field }) => field.code === code);
    return found?.limits;
  };
  expect(limitsIn("Food & Drink > Larder > Honey", "packed_within")?.max?.toFixed()).toBe("4");
  expect(limitsIn("House & Home > Furniture > Beds", "packed_within")?.max?.toFixed()).toBe("25");
  expect(limitsIn("House & Home > Furniture > Beds", "sent_by")?.values?.name).toBe("sent-by-large");
  expect(limitsIn("Bees & Honey > Hives > Whole Hives", "sent_by")?.values?.name).toBe("sent-by");
});
