import { describe, expect, it } from "vitest";
import { LIST_SEPARATOR } from "../../../src/core/catalogue/record.js";
import { rowJoiner, type JoinedRecord } from "../../../src/core/catalogue/row-joiner.js";
import { rowReader, type GroupLayout, type RowReading } from "../../../src/core/catalogue/row-reader.js";
import { sentence } from "../../../src/workspace/wording.js";
import { namesOf } from "../../../src/core/language/names.js";
import { program } from "../../../src/core/language/program.js";
import { surroundings } from "../../kit/evaluate.js";

interface Layout {
  readonly header: string;
  readonly columns: Readonly<Record<string, string>>;
  readonly keys?: readonly string[];
  readonly groups?: GroupLayout | { readonly layout: "own-row"; readonly when: string };
  readonly further?: readonly string[];
  readonly take?: string;
  readonly pairs?: readonly (readonly [name: string, value: string, varies: boolean])[];
}

const readingOf = ({
  header,
  columns,
  keys = ["sku"],
  groups,
  further = [],
  take,
  pairs = [],
}: Layout): RowReading => {
  const names = header.split(",");
  const compiled = (text: string) => {
    const ready = program(
      { text, place: { file: "source.yaml", line: 1 } },
      namesOf(
        "column",
        names.map((name) => ({ name, kind: "text" })),
      ),
      surroundings,
    );
    if (ready.kind === "faulty") throw new Error(ready.findings.map(sentence).join("\n"));
    return ready.run;
  };
  const layout: GroupLayout =
    groups === undefined
      ? { layout: "rows" }
      : groups.layout === "own-row" && typeof groups.when === "string"
        ? { layout: "own-row", when: compiled(groups.when) }
        : (groups as GroupLayout);
  return {
    file: "shop.csv",
    units: {},
    listSeparator: "|",
    clearWord: undefined,
    currency: "GBP",
    columns: Object.entries(columns).map(([attribute, column]) => ({
      attribute,
      column,
      from: names.includes(column)
        ? { kind: "column", index: names.indexOf(column) }
        : { kind: "expression", run: compiled(column) },
    })),
    keys,
    take: take === undefined ? undefined : compiled(take),
    groups: layout,
    furtherRowsAdd: new Set(further),
    pairs: pairs.map(([name, value, varies]) => ({
      nameIndex: names.indexOf(name),
      valueIndex: names.indexOf(value),
      column: value,
      varies,
    })),
  };
};

/** Reads rows written as text, a line a row, and gives each record as `kind attribute=text …`. */
const readRows = (layout: Layout, rows: string): readonly string[] => {
  const reading = readingOf(layout);
  const reader = rowReader(reading);
  const joiner = rowJoiner<undefined>(reading, reader.attributes);
  const told: string[] = [];
  const show = ({ kind, row, texts }: JoinedRecord<undefined>): string => {
    const values = texts.flatMap((text, at) =>
      text === ""
        ? []
        : [`${reader.attributes[at]?.attribute ?? ""}=${text.replaceAll(LIST_SEPARATOR, "+")}`],
    );
    return `${row} ${kind} ${values.join(" ")}`;
  };
  rows
    .trim()
    .split("\n")
    .forEach((line, index) => {
      const read = reader.read(index + 2, line.split(","));
      if (read.kind === "waiting") throw new Error("no row may wait here");
      if (read.kind === "rejected") told.push(`${read.row} rejected ${sentence(read.because)}`);
      else if (read.kind === "skipped") told.push(`${read.row} skipped`);
      else told.push(...joiner.push(read, undefined).map(show));
    });
  return [...told, ...joiner.end().map(show)];
};

describe("rows that stand for themselves", () => {
  const layout = { header: "Art,Name,Price", columns: { sku: "Art", name: "Name", price: "Price" } };

  it("when each row is a product, then each is a record", () => {
    expect(readRows(layout, "A,Stool,5\nB,Bench,7.5")).toEqual([
      "2 product sku=A name=Stool price=5.00 GBP",
      "3 product sku=B name=Bench price=7.50 GBP",
    ]);
  });

  it("when a row has no key, or one that a spreadsheet spoilt, then it is rejected with the reason", () => {
    expect(readRows(layout, ",Stool,5\n1.2E+05,Bench,7\n10-Dec,Table,9")).toEqual([
      "2 rejected the row has no sku",
      '3 rejected sku "1.2E+05" is what a spreadsheet made of a number or a date; format the column as text and enter it again',
      '4 rejected sku "10-Dec" is what a spreadsheet made of a number or a date; format the column as text and enter it again',
    ]);
  });

  it("when the source takes some rows only, then the others are passed over", () => {
    expect(readRows({ ...layout, take: 'Price != "0"' }, "A,Stool,0\nB,Bench,7")).toEqual([
      "2 skipped",
      "3 product sku=B name=Bench price=7.00 GBP",
    ]);
  });

  it("when one of several keys is given, then the row is taken by it", () => {
    const keyed = {
      header: "EAN,Part,Price",
      columns: { gtin: "EAN", mpn: "Part", price: "Price" },
      keys: ["gtin", "mpn"],
    };
    expect(readRows(keyed, "9524000001016,,5\n,P-1,6\n,,7\n9.52E+12,,8")).toEqual([
      "2 product gtin=9524000001016 price=5.00 GBP",
      "4 rejected the row has no gtin or mpn",
      '5 rejected gtin "9.52E+12" is what a spreadsheet made of a number or a date; format the column as text and enter it again',
      "3 product mpn=P-1 price=6.00 GBP",
    ]);
  });

  it("when an expression gives a number, then it is what its attribute holds: a price in the file's currency, a measure", () => {
    const layout = {
      header: "Art,Price,Kilos",
      columns: {
        sku: "Art",
        price: "number(Price)",
        "price@EUR": "number(Price) * 2",
        weight: 'measure(Kilos, "kg")',
      },
    };
    expect(readRows(layout, "A, 64.00,2\nB,-1,0.5\nC,,")).toEqual([
      "2 product sku=A price=64.00 GBP price@EUR=128.00 EUR weight=2 kg",
      expect.stringMatching(/^3 product sku=B .*weight=0.5 kg$/),
      "4 product sku=C",
    ]);
  });

  it("when an attribute is an expression over columns, then it is worked out for each row", () => {
    const worked = {
      header: "Art,Make,Name",
      columns: { sku: "Art", name: '"{Make} {Name}"', brand: '"Oakapple"' },
    };
    expect(readRows(worked, "A,Fine,Stool")).toEqual(["2 product sku=A name=Fine Stool brand=Oakapple"]);
  });
});

describe("rows that belong together", () => {
  const shared = {
    header: "Art,Parent,Name,Colour,Picture",
    columns: { sku: "Art", group: "Parent", name: "Name", color: "Colour", images: "Picture" },
  };

  it("when a group's first row carries what all share, then it becomes the group's own record", () => {
    const rows = "A-1,A,Stool,red,\nA-2,A,,blue,\nB-1,B,Bench,green,\nC,,Table,,";
    expect(readRows({ ...shared, groups: { layout: "first-row", shared: new Set(["name"]) } }, rows)).toEqual(
      [
        "2 product sku=A-1 group=A color=red",
        "2 group group=A name=Stool",
        "3 product sku=A-2 group=A color=blue",
        "4 group group=B name=Bench",
        "4 product sku=B-1 group=B color=green",
        "5 product sku=C name=Table",
      ],
    );
  });

  it("when groups have rows of their own, then those become records of groups", () => {
    const rows = "A,,Stool,,\nA-1,A,,red,\nA-2,A,,blue,";
    expect(readRows({ ...shared, groups: { layout: "own-row", when: "Colour is blank" } }, rows)).toEqual([
      "2 group group=A name=Stool",
      "3 product sku=A-1 group=A color=red",
      "4 product sku=A-2 group=A color=blue",
    ]);
  });

  it("when further rows only bring pictures, then the product above gets them, each once", () => {
    const rows =
      "A,,Stool,,https://x.example/1.jpg\nA,,,,https://x.example/2.jpg\n,,,,https://x.example/3.jpg\nA,,,,https://x.example/2.jpg\nB,,Bench,,4.jpg";
    const [first, second] = readRows({ ...shared, further: ["images"] }, rows);
    expect(first).toBe(
      "2 product sku=A name=Stool images=https://x.example/1.jpg+https://x.example/2.jpg+https://x.example/3.jpg",
    );
    expect(second).toContain("sku=B");
  });

  it("when a row repeats a key and brings more than pictures, then it is a product row again", () => {
    const rows = readRows(
      { ...shared, further: ["images"] },
      "A,,Stool,,https://x.example/1.jpg\nA,,Stool two,,2.jpg",
    );
    expect(rows).toHaveLength(2);
  });
});

describe("pairs of name and value", () => {
  const options = {
    header: "Art,Parent,N1,V1,N2,V2",
    columns: { sku: "Art", group: "Parent" },
    pairs: [
      ["N1", "V1", true],
      ["N2", "V2", true],
    ] as const,
  };

  it("when options name what members differ in, then values and axes are set, named once for the group", () => {
    expect(readRows(options, "A-1,A,Colour,red,Size,M\nA-2,A,,blue,,L\nB,,,,,")).toEqual([
      "2 product sku=A-1 group=A color=red size=M varies_by=color+size",
      "3 product sku=A-2 group=A color=blue size=L varies_by=color+size",
      "4 product sku=B",
    ]);
  });

  it("when an option is one that no product varies by, then it is kept as an attribute of its own", () => {
    expect(readRows(options, "A-1,A,Price,red,Title,M\nA-2,A,,blue,,L")).toEqual([
      "2 product sku=A-1 group=A option_price=red title=M varies_by=option_price+title",
      "3 product sku=A-2 group=A option_price=blue title=L varies_by=option_price+title",
    ]);
  });

  it("when pairs name attributes of any kind, then known ones are typed and others are the user's own", () => {
    const pairs = {
      ...options,
      pairs: [
        ["N1", "V1", false],
        ["N2", "V2", false],
      ] as const,
    };
    expect(readRows(pairs, "A,,Weight,2 kg,Burn time,3 h\nB,,Material,oak,,")).toEqual([
      "2 product sku=A weight=2 kg burn_time=3 h",
      "3 product sku=B material=oak",
    ]);
  });
});
