import { describe, expect, it } from "vitest";
import { sentence } from "../../src/workspace/wording.js";
import { Refusal } from "../../src/core/diagnostics/refusal.js";
import { shownText } from "../../src/core/values/show.js";
import { lookUps } from "../../src/workspace/look-up-files.js";
import { temporaryFolder, write } from "../kit/run.js";

const folderWith = (tables: Readonly<Record<string, string>>): string => {
  const root = temporaryFolder();
  for (const [name, text] of Object.entries(tables)) write(root, `tables/${name}`, text);
  return root;
};

const refused = async (tables: Readonly<Record<string, string>>): Promise<readonly string[]> => {
  try {
    await lookUps(folderWith(tables));
    return [];
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return error.findings.map(
      (finding) => `${finding.place?.file ?? ""} ${finding.place?.row ?? ""}: ${sentence(finding)}`,
    );
  }
};

describe("the tables of a workspace", () => {
  it("when there are none, then expressions know none", async () => {
    expect(await lookUps(temporaryFolder())).toEqual({});
    expect(await lookUps(folderWith({ "notes.txt": "no table" }))).toEqual({});
  });

  it("when lines of their author's stand before and among the rows, then they are passed over", async () => {
    const { tables } = await lookUps(
      folderWith({
        "bands.csv": "# by the carrier\n# since May\nup_to;cost\n1 kg;3.20 GBP\n# later:\n;5.40 GBP\n\n",
      }),
    );
    const bands = tables?.get("bands");
    expect(bands?.columns).toEqual(["up_to", "cost"]);
    expect(shownText(bands?.band(bands.row(["1 kg"])?.cells[0] ?? "", [])?.cells[1])).toBe("3.20 GBP");
  });

  it("when a key begins with a hash, then it is a row; a remark stands alone in its line", async () => {
    const { tables } = await lookUps(
      folderWith({ "codes.csv": "our,theirs\n# colours below\n#4F7942,fern\n# by us,\n" }),
    );
    const codes = tables?.get("codes");
    expect([codes?.row(["#4F7942"])?.cells[1], codes?.row(["# by us"])]).toEqual(["fern", undefined]);
  });

  it("when keys differ by zeros, signs or letters alone, then the one that is written so is found first", async () => {
    const { tables } = await lookUps(
      folderWith({
        "codes.csv": "our,theirs\n0042,long\n42,short\na+,plus\na,plain\nMoss,large\nmoss,small\n",
      }),
    );
    const found = (key: string) => tables?.get("codes")?.row([key])?.cells[1];
    expect(["0042", "42", "A+", "a", "Moss", "moss", "MOSS"].map(found)).toEqual([
      ...["long", "short", "plus", "plain", "large", "small"],
      "large",
    ]);
  });

  it("when rates are there, then they convert, and can be asked like any table", async () => {
    const { rates, tables } = await lookUps(
      folderWith({ "rates.csv": "day,from,to,rate\n2026-01-01,GBP,EUR,1.1725\n" }),
    );
    expect(rates?.find("GBP", "EUR", { kind: "date", iso: "2026-06-01" })?.times.toFixed()).toBe("1.1725");
    expect(tables?.get("rates")?.columns).toEqual(["day", "from", "to", "rate"]);
  });

  it("when rates lack a column, then that is told", async () => {
    expect(await refused({ "rates.csv": "day,from,rate\n2026-01-01,GBP,1.1\n" })).toEqual([
      expect.stringContaining('the table has no column "to"'),
    ]);
  });

  it("when several rates are wrong, then all are told with their rows", async () => {
    expect(
      await refused({
        "rates.csv":
          "day,from,to,rate\nMay,GBP,EUR,1.1\n2026-01-01,gbp,EUR,1.1\n2026-01-01,GBP,EUR,0\n2026-01-01,GBP,EUR,1.1\n",
      }),
    ).toEqual([
      expect.stringMatching(/^tables\/rates\.csv 2: day is "May"/),
      expect.stringMatching(/^tables\/rates\.csv 3: from is "gbp"/),
      expect.stringMatching(/^tables\/rates\.csv 4: rate is "0"/),
    ]);
  });

  it("when cells would run as formulas in a spreadsheet, then they are texts like any other here", async () => {
    const { tables } = await lookUps(folderWith({ "odd.csv": 'our,theirs\n"=1+1",one\n"\'-x",two\n' }));
    expect(tables?.get("odd")?.row(["=1+1"])?.cells[1]).toBe("one");
    expect(tables?.get("odd")?.row(["-x"])?.cells[1]).toBe("two");
  });
});
