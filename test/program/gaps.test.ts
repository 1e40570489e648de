import { spawnSync } from "node:child_process";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { describe, expect, it } from "vitest";
import { demoShop } from "../kit/demo-shop.js";
import { gtinOf } from "../kit/goods.js";
import { copyOf, jsonLines, lexicant, read, write } from "../kit/run.js";

const shop = demoShop();

type Json = Readonly<Record<string, unknown>>;

/** Works on a workbook with another program's library, as a person would in a spreadsheet. */
const inPython = (path: string, script: string): unknown => {
  const { status, stdout, stderr } = spawnSync(
    "/usr/bin/python3",
    [
      "-c",
      `import openpyxl,sys,json,datetime\nbook=openpyxl.load_workbook(sys.argv[1])\n${script}\nbook.save(sys.argv[1])`,
      path,
    ],
    { encoding: "utf8" },
  );
  expect([status, stderr]).toEqual([0, ""]);
  return stdout === "" ? undefined : JSON.parse(stdout);
};

/** Types values into open cells by the column's title and the row's SKU. */
const typing = (typed: Readonly<Record<string, Readonly<Record<string, string>>>>): string => `
typed=json.loads(${JSON.stringify(JSON.stringify(typed))})
for sheet in book.worksheets:
  if sheet.sheet_state != "visible": continue
  titles={}
  for c in range(1, sheet.max_column+1): titles.setdefault(sheet.cell(2,c).value, c)
  rows={sheet.cell(r,1).value: r for r in range(4, sheet.max_row+1)}
  for title, answers in typed.items():
    for sku, value in answers.items():
      if title in titles and sku in rows:
        cell=sheet.cell(rows[sku], titles[title])
        if not cell.protection.locked: cell.value=value
`;

const made = (own: string, ...channels: readonly string[]): string => {
  const { exit, err } = lexicant(own, ["gaps", ...channels, "--out", "gaps.xlsx"]);
  expect([exit, err]).toEqual([0, ""]);
  return join(own, "gaps.xlsx");
};

const imported = (own: string, file = "gaps.xlsx") => {
  const ran = lexicant(own, ["import", file, "--json"]);
  const lines = jsonLines(ran.out);
  return {
    exit: ran.exit,
    answers: lines.find(({ type }) => type === "answers") ?? {},
    findings: lines.filter(({ type }) => type === "finding"),
  };
};

const told = (findings: readonly Json[]): readonly string[] =>
  findings.map(({ code, product, place }) => {
    const { row, column } = (place ?? {}) as { row?: number; column?: string };
    return `${String(code)} ${String(product)} ${row} ${column}`;
  });

const readiness = (own: string, channel: string): number =>
  Number(jsonLines(lexicant(own, ["readiness", channel, "--json"]).out)[0]?.["ready"]);

describe("a gap sheet as it is written", () => {
  const own = copyOf(shop);
  const path = made(own, "merrowgate");

  it("when another program opens it, then what is asked is open, the rest is locked, and lists drop down", () => {
    const seen = inPython(
      path,
      `
sheet=book.worksheets[0]
rows={sheet.cell(r,1).value: r for r in range(4, sheet.max_row+1)}
titles={sheet.cell(2,c).value: c for c in range(1, sheet.max_column+1)}
hive=titles["Hive pattern (Merrowgate)"]
validation=next(v for v in sheet.data_validations.dataValidation if sheet.cell(rows["BC-1101-10"],hive).coordinate in v.sqref)
print(json.dumps({
  "protected": sheet.protection.sheet,
  "open": [sheet.cell(rows["BC-1101-10"],hive).protection.locked, sheet.cell(rows["BC-1101-10"],1).protection.locked, sheet.cell(rows["BC-5105"],hive).protection.locked],
  "list": validation.formula1, "note": sheet.cell(2,hive).comment.text, "hidden": [sheet.row_dimensions[1].hidden, sheet.column_dimensions["B"].hidden],
  "frozen": sheet.freeze_panes, "formats": sorted({sheet.cell(r,hive).number_format for r in range(5,20)}),
  "link": sheet.cell(5,6).hyperlink.target,
}))`,
    ) as Json;
    expect(seen).toMatchObject({
      protected: true,
      open: [false, true, true],
      list: expect.stringContaining("National"),
      hidden: [true, true],
      frozen: "D5",
      formats: ["@"],
      link: expect.stringMatching(/^https:/),
    });
    expect(seen["note"]).toContain("Goes to Merrowgate alone.");
    expect(seen["note"]).toContain("Such as: National");
  });

  it("when it is counted, then every open cell is one that was asked for", () => {
    const summary = jsonLines(
      lexicant(own, ["gaps", "merrowgate", "--out", "gaps.xlsx", "--force", "--json"]).out,
    );
    const cells = inPython(
      path,
      `
print(json.dumps(sum(1 for s in book.worksheets if s.sheet_state=="visible" for c in range(1,s.max_column+1) if s.cell(2,c).value!="take it?" for r in range(5,s.max_row+1) if not s.cell(r,c).protection.locked)))`,
    );
    expect(summary.at(-1)).toMatchObject({ type: "gaps", cells, file: "gaps.xlsx" });
    expect(summary.filter(({ type }) => type === "gap-sheet").length).toBeGreaterThan(1);
  });

  it("when several channels ask for one attribute, then it is asked once, in a sheet for the catalogue", () => {
    made(own, "merrowgate", "--force", "gavelstead", "fjordhandel");
    const sheets = jsonLines(
      lexicant(own, ["gaps", "merrowgate", "gavelstead", "fjordhandel", "--json"]).out,
    ).filter(({ type }) => type === "gap-sheet");
    const weight = sheets.flatMap(({ channel, questions }) =>
      (questions as { target: Json; askers: { channel: string }[] }[])
        .filter(({ target }) => target["attribute"] === "package_weight")
        .map(({ askers }) => [channel, new Set(askers.map((asker) => asker.channel)).size]),
    );
    expect(weight).toEqual([["", 3]]);
    expect(String(sheets[0]?.["sheet"])).toMatch(/^Catalogue/);
  });

  it("when a file is there already, or nothing is held, then that is told", () => {
    expect(lexicant(own, ["gaps", "merrowgate", "--out", "gaps.xlsx"])).toMatchObject({ exit: 2 });
    expect(lexicant(own, ["gaps", "merrowgate", "--out", "gaps.ods"]).err).toContain(".xlsx or .csv");
    expect(lexicant(own, ["gaps", "storefront"]).err).toContain("is not in use");
  });
});

describe("a sheet that stands there already", () => {
  it("when a person has begun to fill it, then it is kept until it was imported, or they say otherwise", () => {
    const own = copyOf(shop);
    const sheet = join(own, "out/gaps/merrowgate.xlsx");
    const made = () => lexicant(own, ["gaps", "merrowgate"]);
    expect(made().exit).toBe(0);
    expect(made().exit).toBe(0);
    inPython(sheet, typing({ Size: { "BC-5105": "pack of 100" }, "Package weight": { "BC-5203": "50 g" } }));
    const begun = readFileSync(sheet);
    const refused = made();
    expect([refused.exit, refused.err.replace(/\s+/g, " ")]).toEqual([
      2,
      expect.stringMatching(/holds 2 answers that were filled in and not imported.*--out.*--force/),
    ]);
    expect(readFileSync(sheet).equals(begun)).toBe(true);
    expect(lexicant(own, ["gaps", "merrowgate", "--out", "other.xlsx"]).exit).toBe(0);
    expect(lexicant(own, ["import", "out/gaps/merrowgate.xlsx"]).exit).toBe(0);
    expect(made().exit).toBe(0);
    inPython(sheet, typing({ Material: { "BC-1106-GREY": "polystyrene" } }));
    expect(made().exit).toBe(2);
    expect(lexicant(own, ["gaps", "merrowgate", "--force"]).exit).toBe(0);
    write(own, "out/gaps/merrowgate.xlsx", "what a person put there");
    expect(made()).toMatchObject({ exit: 2, err: expect.stringContaining("is there") });
  });
});

const answers = {
  "Hive pattern (Merrowgate)": { "(same for all)": "National", "BC-1702": "own pattern" },
  Size: { "BC-5105": "pack of 100", "BC-5106-STRAW": "50 labels" },
  Material: { "BC-1106-GREY": "polystyrene", "BC-3603": "steel" },
  "Package weight": { "BC-5203": "0.05", "BC-9103-25": "30 g" },
};

describe("a gap sheet that a person has filled", () => {
  it("when it is imported, then answers land where they belong, and the products are ready", () => {
    const own = copyOf(shop);
    inPython(made(own, "merrowgate"), typing(answers));
    const before = readiness(own, "merrowgate");
    const { exit, answers: taken, findings } = imported(own);
    expect([exit, told(findings)]).toEqual([0, []]);
    expect(taken).toMatchObject({ answers: 23, catalogue: 6, channel: 17, refused: 0, unchanged: 0 });
    const [channel] = taken["channels"] as { becameReady: number }[];
    expect(readiness(own, "merrowgate") - before).toBe(channel?.becameReady);
    expect(channel?.becameReady).toBeGreaterThan(15);
    const show = lexicant(own, ["show", "BC-5203"]).out;
    expect(show).toContain("0.05 kg");
    expect(show).toMatch(/edits: gaps\.xlsx, sheet Merrowgate others, row \d+, column "Package weight"/);
    // What is for one channel alone shows there, and can be reverted.
    expect(lexicant(own, ["explain", "BC-1101-10", "merrowgate", "hive_pattern"]).out).toContain(
      "an answer for this field: gaps.xlsx, sheet Merrowgate Beekeeping, row 5",
    );
    expect(lexicant(own, ["show", "BC-1101-10"]).out).not.toContain("answer_hive_pattern");
    const again = imported(own);
    expect([again.exit, again.answers["unchanged"], again.answers["revisions"]]).toEqual([0, 23, []]);
    lexicant(own, ["undo"]);
    expect(readiness(own, "merrowgate")).toBe(before);
  });

  it("when it is a dry run, then it says what would become of it and changes nothing", () => {
    const own = copyOf(shop);
    inPython(made(own, "merrowgate"), typing(answers));
    const { exit, out } = lexicant(own, ["import", "gaps.xlsx", "--dry-run"]);
    expect(exit).toBe(0);
    expect(out).toMatch(/23 answers in 3 gap sheets: 23 would be taken/);
    expect(out).toMatch(/Merrowgate: \d+ products would become ready/);
    expect(imported(own).answers["unchanged"]).toBe(0);
  });

  it("when some answers are wrong, then each is told by its cell and no right one is lost", () => {
    const own = copyOf(shop);
    inPython(
      made(own, "merrowgate"),
      typing({
        ...answers,
        "Pieces in the pack (Merrowgate)": { "BC-1123-DEEP": "10", "BC-1123-SHALL": "ten" },
        "First image": { "BC-2304": "https://brindlecote.example/p.jpg", "BC-4203": "p.jpg" },
        GTIN: { "BC-3304": "9524000004521" },
        Description: { "BC-1701-10": "short" },
      }),
    );
    const { exit, answers: taken, findings } = imported(own);
    expect(exit).toBe(0);
    expect(taken).toMatchObject({ answers: 29, refused: 3 });
    expect([...told(findings)].sort()).toEqual([
      expect.stringMatching(/^too-short BC-1701-10 22 K: Description$/),
      expect.stringMatching(/^unreadable-value BC-3304 \d+ [A-Z]: GTIN$/),
      expect.stringMatching(/^unreadable-value BC-4203 \d+ [A-Z]: First image$/),
      expect.stringMatching(/^wrong-kind BC-1123-SHALL 18 [A-Z]: Pieces in the pack \(Merrowgate\)$/),
    ]);
    expect(lexicant(own, ["import", "gaps.xlsx"]).out).toContain(
      "Correct the cells named above in the same sheet and import it again.",
    );
  });

  it("when a spreadsheet made dates and numbers of cells, then numbers are read and dates told", () => {
    const own = copyOf(shop);
    inPython(
      made(own, "merrowgate"),
      `
for sheet in book.worksheets:
  titles={sheet.cell(2,c).value: c for c in range(1, sheet.max_column+1)}
  rows={sheet.cell(r,1).value: r for r in range(5, sheet.max_row+1)}
  def put(title, sku, value, shape):
    if title in titles and sku in rows:
      cell=sheet.cell(rows[sku], titles[title]); cell.value=value; cell.number_format=shape
  put("Size", "BC-5105", datetime.datetime(2026,10,12), "yyyy-mm-dd")
  put("Pieces in the pack (Merrowgate)", "BC-1123-DEEP", 10, "0")
  put("Package weight", "BC-5203", 0.05, "0.00")
  put("GTIN", "BC-3304", ${gtinOf(452)}, "0")
  put("Sale until", "BC-5201", datetime.datetime(2026,12,24), "yyyy-mm-dd")`,
    );
    const { exit, answers: taken, findings } = imported(own);
    expect(exit).toBe(0);
    expect(told(findings)).toEqual([expect.stringMatching(/^damaged-value BC-5105 \d+ H: Size$/)]);
    expect(taken).toMatchObject({ answers: 5, refused: 1 });
    expect(lexicant(own, ["show", "BC-5201"]).out).toContain("2026-12-24");
  });

  it("when rows are sorted, columns deleted, rows added and a SKU changed, then the rest is taken all the same", () => {
    const own = copyOf(shop);
    inPython(
      made(own, "merrowgate"),
      `${typing(answers)}
sheet=book.worksheets[0]
titles={sheet.cell(2,c).value: c for c in range(1, sheet.max_column+1)}
sheet.delete_cols(titles["Description, now"])
sheet.delete_cols(titles["Name"])
block=[[sheet.cell(r,c).value for c in range(1, sheet.max_column+1)] for r in range(5, sheet.max_row+1)]
block.reverse()
block[0][0]="BC-9999"
for r, cells in enumerate(block):
  for c, value in enumerate(cells): sheet.cell(r+5, c+1).value=value
end=sheet.max_row+1
hive=next(c for c in range(1, sheet.max_column+1) if sheet.cell(2,c).value=="Hive pattern (Merrowgate)")
sheet.cell(end,1).value="BC-NEW"; sheet.cell(end,hive).value="National"`,
    );
    const { exit, answers: taken, findings } = imported(own);
    expect(exit).toBe(0);
    expect(taken).toMatchObject({ catalogue: 6, channel: 16, refused: 1 });
    expect([...told(findings)].sort()).toEqual([
      "changed-sku undefined 5 A: SKU",
      expect.stringMatching(/^unknown-sku undefined \d+ F: Hive pattern/),
    ]);
  });

  it("when the sheet is another shop's, then nothing is taken; when the definition is newer, then it is told and checked", () => {
    const own = copyOf(shop);
    const path = made(own, "merrowgate");
    inPython(path, typing(answers));
    const sheet = readFileSync(path);
    const manifest = read(own, "lexicant.yaml");
    write(own, "lexicant.yaml", manifest.replace("shop: Brindlecote", "shop: Oakapple"));
    const foreign = lexicant(own, ["import", "gaps.xlsx"]);
    expect(foreign).toMatchObject({ exit: 2, err: expect.stringContaining('made for "Brindlecote"') });
    write(own, "lexicant.yaml", manifest);
    writeFileSync(path, sheet);
    inPython(
      path,
      `
for s in book.worksheets:
  cell=s.cell(1,1)
  if cell.value and str(cell.value).startswith("lexicant"): cell.value=cell.value.replace("2026.2","2025.9")`,
    );
    const older = imported(own);
    expect(older.exit).toBe(0);
    expect(older.findings.map(({ code }) => code)).toEqual(older.findings.map(() => "older-sheet"));
    expect(older.answers).toMatchObject({ answers: 23, refused: 0 });
  });
});

describe("terms and proposals", () => {
  /** The demo with a channel that has forgotten what our colours mean. */
  const untold = (): string => {
    const own = copyOf(shop);
    write(own, "channels/merrowgate/lexicon.csv", "field,our_category,our_term,channel_value\n");
    return own;
  };

  it("when proposals are taken, then the lexicon has their rows and all products with the terms follow", () => {
    const own = untold();
    inPython(
      made(own, "merrowgate"),
      `
for sheet in book.worksheets:
  for c in range(1, sheet.max_column+1):
    if sheet.cell(2,c).value=="take it?": sheet.cell(4,c).value="yes"`,
    );
    const before = readiness(own, "merrowgate");
    const { exit, answers: taken } = imported(own);
    expect(exit).toBe(0);
    expect(Number(taken["lexicon"])).toBeGreaterThan(3);
    const rows: Record<string, string>[] = parse(read(own, "channels/merrowgate/lexicon.csv"), {
      columns: true,
    });
    expect(rows).toHaveLength(Number(taken["lexicon"]));
    expect(readiness(own, "merrowgate")).toBeGreaterThan(before);
    expect(imported(own)).toMatchObject({ exit: 0, answers: { lexicon: 0 } });
  });

  it("when the sheet is undone, then its rows of the lexicon go and come back, and its count was that of the check", () => {
    const own = untold();
    const path = made(own, "merrowgate");
    // One row for each term is left in the sheet: other products with the terms become ready all the same.
    inPython(
      path,
      `
for sheet in book.worksheets:
  for c in range(1, sheet.max_column+1):
    if sheet.cell(2,c).value=="take it?": sheet.cell(4,c).value="yes"
  if sheet.max_row>40: sheet.delete_rows(41, sheet.max_row)`,
    );
    const lexicon = "channels/merrowgate/lexicon.csv";
    const [before, text] = [readiness(own, "merrowgate"), read(own, lexicon)];
    const { answers: taken } = imported(own);
    const told = (taken["channels"] as readonly Json[])[0]?.["becameReady"];
    expect(told).toBe(readiness(own, "merrowgate") - before);
    const filled = read(own, lexicon);
    expect(lexicant(own, ["undo"]).out).toMatch(/\d+ rows of the lexicon went with it/);
    expect([read(own, lexicon), readiness(own, "merrowgate")]).toEqual([text, before]);
    expect(
      lexicant(own, ["undo", String(jsonLines(lexicant(own, ["history", "--json"]).out)[0]?.["revision"])])
        .out,
    ).toMatch(/rows of the lexicon came back with it/);
    expect(read(own, lexicon).split("\n").sort()).toEqual(filled.split("\n").sort());
  });

  it("when one term is given two values, then the first is taken and the second told", () => {
    const own = untold();
    const [question] = jsonLines(lexicant(own, ["lexicon", "merrowgate", "--json"]).out);
    const label = jsonLines(lexicant(own, ["fields", "merrowgate", "BCDB", "--json"]).out).find(
      ({ field }) => field === question?.["field"],
    )?.["label"];
    expect([question?.["field"], label]).toEqual(["shade_family", expect.any(String)]);
    inPython(
      made(own, "merrowgate"),
      `
for sheet in book.worksheets:
  for c in range(1, sheet.max_column+1):
    if sheet.cell(2,c).value == ${JSON.stringify(`${String(label)} (Merrowgate)`)}:
      terms={}
      for r in range(5, sheet.max_row+1):
        term=sheet.cell(r,c-1).value
        if term: terms.setdefault(term,[]).append(r)
      for rows in terms.values():
        if len(rows)>1:
          sheet.cell(rows[0],c).value="green"; sheet.cell(rows[1],c).value="red"; break
      break`,
    );
    const { exit, answers: taken, findings } = imported(own);
    expect(exit).toBe(0);
    expect(Number(taken["lexicon"])).toBeGreaterThan(0);
    expect(new Set(findings.map(({ code }) => code))).toEqual(new Set(["contradicting-answers"]));
  });
});

describe("a gap sheet as CSV", () => {
  it("when it is filled in an editor and imported, then it is known by itself", () => {
    const own = copyOf(shop);
    expect(lexicant(own, ["gaps", "merrowgate", "--out", "gaps.csv"]).exit).toBe(0);
    const rows: string[][] = parse(read(own, "gaps.csv"), { bom: true, relax_column_count: true });
    const [, titles = []] = rows;
    const column = titles.indexOf("Hive pattern (Merrowgate)");
    const open = rows.slice(4).filter((cells) => cells[column] === "");
    expect(open.length).toBe(17);
    expect(rows.slice(4).some((cells) => cells[column] === "·")).toBe(true);
    for (const cells of open) cells[column] = "National";
    const quoted = (cell: string): string => `"${cell.replaceAll('"', '""')}"`;
    write(own, "gaps.csv", rows.map((cells) => cells.map(quoted).join(",")).join("\n"));
    const { exit, answers: taken } = imported(own, "gaps.csv");
    expect([exit, taken["channel"]]).toEqual([0, 17]);
  });

  it("when no cell is filled, then that is said, and other files of the same import are read", () => {
    const own = copyOf(shop);
    lexicant(own, ["gaps", "merrowgate", "--out", "gaps.csv"]);
    expect(lexicant(own, ["import", "gaps.csv"]).out).toContain("no answer in it yet");
    write(own, "sheet.csv", "sku,name\nBC-1402,Bee Brush of horsehair\n");
    const both = lexicant(own, ["import", "gaps.csv", "sheet.csv"]);
    expect(both.exit).toBe(0);
    expect(both.out).toContain("1 read = 0 added + 1 changed");
    expect(existsSync(join(own, "sources", "gaps.yaml"))).toBe(false);
  });

  it("when sheets and other files come together, then they are one act: all of it lands or nothing, and goes by one undo", () => {
    const own = copyOf(shop);
    inPython(made(own, "merrowgate"), typing(answers));
    write(own, "sheet.csv", "sku,name\nBC-1402,Bee Brush of horsehair\n");
    write(own, "broken.csv", 'sku,name\nBC-1402,"never closed\n');
    const before = [readiness(own, "merrowgate"), lexicant(own, ["history"]).out];
    const now = (): readonly unknown[] => [readiness(own, "merrowgate"), lexicant(own, ["history"]).out];
    expect(lexicant(own, ["import", "gaps.xlsx", "sheet.csv", "broken.csv"]).exit).toBe(2);
    expect(now()).toEqual(before);
    expect(lexicant(own, ["import", "gaps.xlsx", "sheet.csv", "--dry-run"]).exit).toBe(0);
    expect(now()).toEqual(before);
    expect(lexicant(own, ["import", "gaps.xlsx", "sheet.csv"]).exit).toBe(0);
    expect(readiness(own, "merrowgate")).toBeGreaterThan(Number(before[0]) + 15);
    expect(lexicant(own, ["show", "BC-1402"]).out).toContain("Bee Brush of horsehair");
    expect(lexicant(own, ["undo"]).out.match(/^Undone:/gm)?.length).toBeGreaterThan(1);
    expect(readiness(own, "merrowgate")).toBe(before[0]);
    expect(lexicant(own, ["show", "BC-1402"]).out).not.toContain("of horsehair");
    expect(lexicant(own, ["import", "gaps.xlsx", "--propose"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("--propose does nothing here"),
    });
  });
});
