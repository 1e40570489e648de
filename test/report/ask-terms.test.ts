import { Readable } from "node:stream";
import { describe, expect, it } from "vitest";
import { askTerms } from "../../src/report/ask-terms.js";
import type { TermDecision } from "../../src/flow/lexicon/terms-decided.js";
import { proposeValues } from "../../src/core/listing/fill/lexicon-proposals.js";
import { valueList } from "../../src/core/channel/value-list.js";
import { fieldNamed } from "../../src/core/channel/definition.js";
import type { Io } from "../../src/io/io.js";
import { definitionOf } from "../kit/definition.js";

const { definition } = definitionOf();
const field = fieldNamed(definition, "hue");
if (field === undefined) throw new Error("no hue");
const list = valueList(
  "hue",
  { file: "values/hue.csv" },
  ["green", "grey", "red", "dark red"].map((value) => ({ value, label: "", synonyms: [] })),
);

const unknown = (term: string) => ({
  field,
  term,
  list,
  products: 3,
  sku: "S-1",
  proposals: proposeValues(term, list),
});

/** Answers questions one after the other, as a person would; what was said to them is kept. */
const person = (...answers: readonly string[]): { readonly io: Io; readonly heard: string[] } => {
  const waiting = [...answers];
  const heard: string[] = [];
  const io: Io = {
    out: () => undefined,
    err: (text) => void heard.push(text),
    isTerminal: true,
    isAttended: true,
    columns: 100,
    cwd: "/",
    environment: { NO_COLOR: "1" },
    now: () => new Date("2026-03-01T00:00:00Z"),
    ask: (question) => {
      heard.push(question);
      return Promise.resolve(waiting.shift());
    },
    colors: false,
    errorColors: false,
    page: undefined,
    input: Readable.from([]),
    untilEnded: () => new Promise(() => undefined),
  };
  return { io, heard };
};

const asked = async (
  terms: readonly string[],
  ...answers: readonly string[]
): Promise<{ readonly kept: readonly string[]; readonly heard: string }> => {
  const { io, heard } = person(...answers);
  const kept: string[] = [];
  const keep = ({ term, value, category }: TermDecision): Promise<void> => {
    kept.push(`${term} = ${value}${category === "" ? "" : ` in ${category}`}`);
    return Promise.resolve();
  };
  await askTerms(terms.map(unknown), "Clothing", io, keep);
  return { kept, heard: heard.join("") };
};

describe("being asked for terms one by one", () => {
  it("when Enter is pressed, then the first proposal is taken and kept before the next question", async () => {
    const { kept, heard } = await asked(["moss green", "brick red"], "", "");
    expect(kept).toEqual(["moss green = green in Clothing", "brick red = red in Clothing"]);
    expect(heard).toContain('Hue: "moss green" (3 products, such as S-1)');
    expect(heard).toContain("1  green  90%, its last word");
  });

  it("when a number is given, then that proposal is taken", async () => {
    const { kept, heard } = await asked(["red green"], "2");
    expect(heard).toContain("2  red  60%, one of its words");
    expect(kept).toEqual(["red green = red in Clothing"]);
  });

  it("when words are given, then the values with them are found and can be chosen", async () => {
    const { kept, heard } = await asked(["xyz"], "dar", "1");
    expect(kept).toEqual(["xyz = dark red in Clothing"]);
    expect(heard).toContain("1  dark red");
  });

  it("when nothing is like the words, then that is said and the question comes again", async () => {
    const { kept, heard } = await asked(["xyz"], "qqqq", "-");
    expect(kept).toEqual([]);
    expect(heard).toContain('No value is like "qqqq".');
  });

  it("when there is no proposal, then Enter takes none, and - skips", async () => {
    const { kept } = await asked(["xyz", "moss green"], "-", "");
    expect(kept).toEqual(["moss green = green in Clothing"]);
  });

  it("when q is given or the input ends, then no more is asked and what was answered stays", async () => {
    expect((await asked(["moss green", "brick red"], "", "q")).kept).toEqual([
      "moss green = green in Clothing",
    ]);
    expect((await asked(["moss green", "brick red"])).kept).toEqual([]);
  });
});
