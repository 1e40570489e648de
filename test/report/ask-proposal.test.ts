import { Readable } from "node:stream";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { corrected } from "../../src/core/catalogue/proposal/corrections.js";
import { proposeSource } from "../../src/core/catalogue/proposal/propose.js";
import type { SourceProposal } from "../../src/core/catalogue/proposal/source-proposal.js";
import type { OpenProposal } from "../../src/flow/import/import-files.js";
import type { Io } from "../../src/io/io.js";
import { askProposal, correctionIn } from "../../src/report/ask-proposal.js";
import { fixedColumns } from "../../src/formats/table-stream.js";
import { sourceFromText } from "../../src/workspace/source-files.js";
import { proposedSourceText } from "../../src/workspace/source-text.js";

const header = ["Article", "Title", "Bin", "Weight", "Text"];
const rows = [
  ["A-1", "Stool", "7", "1.2", "Hocker aus Eiche"],
  ["A-2", "Bench", "9", "4.5", "Bank aus Esche"],
];
const proposal = proposeSource({ header, rows }, "en");

const sourceOf = (one: SourceProposal) =>
  sourceFromText("list", proposedSourceText("list", "list", "GBP", one));

const open = async (): Promise<OpenProposal> => ({
  proposal,
  source: await sourceOf(proposal),
  table: {
    file: "list.csv",
    format: "csv",
    header,
    headerRow: 1,
    ...fixedColumns(header),
    sample: rows.map((cells, at) => ({ row: at + 2, cells })),
    batches: (async function* () {})(),
    told: () => ["UTF-8"],
  },
  remade: sourceOf,
  preview: () => [],
});

const person = (...answers: readonly string[]): { readonly io: Io; readonly heard: string[] } => {
  const waiting = [...answers];
  const heard: string[] = [];
  const io: Io = {
    out: (text) => void heard.push(text),
    err: (text) => void heard.push(text),
    isTerminal: true,
    isAttended: true,
    columns: 120,
    cwd: "/",
    environment: {},
    now: () => new Date(0),
    ask: () => Promise.resolve(waiting.shift()),
    colors: false,
    errorColors: false,
    page: undefined,
    input: Readable.from([]),
    untilEnded: () => new Promise(() => undefined),
  };
  return { io, heard };
};

const lineOf = (column: string): number =>
  proposal.attributes.findIndex(({ columns }) => columns.includes(column)) + 1;

describe("a proposal that a person corrects", () => {
  it("when lines are renamed, left out, given units, languages and the key, then the source says so", async () => {
    const { io, heard } = person(
      `${lineOf("Weight")} package_weight`,
      `${lineOf("Weight")} unit kg`,
      `${lineOf("Bin")} -`,
      "? colour",
      "9 price",
      "2 unit stone",
      "what",
      "y",
    );
    const agreed = await askProposal(await open(), io);
    if (agreed === undefined) throw new Error("nothing was agreed");
    const text = proposedSourceText("list", "list", "GBP", agreed);
    expect(text).toContain("package_weight: Weight");
    expect(text).not.toContain("Bin");
    expect(text).toMatch(/units:\n {2}package_weight: kg/);
    const said = heard.join("");
    for (const words of ["color", "no such line", '"stone" is no unit', 'such as "3 price"'])
      expect(said).toContain(words);
  });

  it("when the person leaves it, or their input ends, then it is not used", async () => {
    expect(await askProposal(await open(), person("n").io)).toBeUndefined();
    expect(await askProposal(await open(), person().io)).toBeUndefined();
  });

  it("when any corrections follow each other, then each attribute stands once, and a column is never read by two", () => {
    const correction = fc.oneof(
      fc.constantFrom("name", "price", "sku", "color").map((attribute) => `1 ${attribute}`),
      fc
        .tuple(
          fc.integer({ min: 0, max: 7 }),
          fc.constantFrom("name", "-", "key", "unit g", "lang de", "weight"),
        )
        .map(([line, rest]) => `${line} ${rest}`),
    );
    fc.assert(
      fc.property(fc.array(correction, { maxLength: 8 }), (lines) => {
        let one = proposal;
        for (const line of lines) {
          const read = correctionIn(line);
          if (typeof read !== "string") one = corrected(one, read) ?? one;
        }
        const attributes = one.attributes.map(({ attribute }) => attribute);
        expect(new Set(attributes).size).toBe(attributes.length);
        expect(one.keys.every((key) => attributes.includes(key))).toBe(true);
      }),
    );
  });
});
