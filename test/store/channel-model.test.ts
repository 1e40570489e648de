import { keptListing } from "../../src/core/listing/live-text.js";
import { everything } from "../../src/flow/choice/chosen.js";
import Database from "better-sqlite3";
import { parse } from "csv-parse/sync";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { runs } from "../kit/runs.js";
import { endingListings, noteGoing } from "../../src/flow/builds/ending-listings.js";
import { layoutFor } from "../../src/flow/builds/build-wishes.js";
import { textRegister } from "../../src/core/catalogue/beside/text-register.js";
import type { PurposeName } from "../../src/core/channel/purpose-names.js";
import type { GroupModel } from "../../src/core/channel/group-model.js";
import type { CsvLayout } from "../../src/core/channel/layout-definition.js";
import { rowsOf, type FileFamily, type FileRow } from "../../src/core/listing/shape/file-family.js";
import { liveValue, type LiveListing } from "../../src/core/listing/live-listing.js";
import { productOf, type Outcome } from "../../src/core/listing/listing.js";
import { shape } from "../../src/core/listing/shape/shape.js";
import { noted } from "../../src/core/purpose/noted.js";
import { purposeFields, type PurposeFacts } from "../../src/core/purpose/purpose.js";
import { purposes } from "../../src/core/purpose/purposes.js";
import { withdrawal } from "../../src/core/purpose/withdraw.js";
import { csvWriter } from "../../src/layouts/csv.js";
import type { LedgerEntry } from "../../src/store/ledger.js";
import { channelLedger } from "../../src/store/sqlite/channel-ledger.js";
import { migrate } from "../../src/store/sqlite/schema.js";
import { definitionOf } from "../kit/definition.js";
import { familyOf, outcomesOf, setupOf } from "../kit/listing.js";

/*
 * A channel told simply: it takes a file row by row. A row of a full file is all that the listing has, any other row says
 * something and leaves the rest, a withdrawn listing is gone. What we believe it has must be what it has, at any time.
 */
type Texts = Readonly<Record<string, string>>;

/** What tells the channel which listing a row is about: its reference, or for a group without one the group's. */
const keyOf = (row: Texts): string => row["ref"] ?? (row["set"] === undefined ? "" : `group ${row["set"]}`);

class SimpleChannel {
  readonly listings = new Map<string, Map<string, string>>();

  take(file: string, purpose: PurposeName): void {
    for (const row of parse(file, { columns: true }) as Record<string, string>[]) {
      const said = Object.fromEntries(Object.entries(row).filter(([, cell]) => cell !== ""));
      const ref = keyOf(said);
      if (purpose === "withdraw") expect(this.listings.delete(ref)).toBe(true);
      else if (purpose === "full") this.listings.set(ref, new Map(Object.entries(said)));
      else {
        const known = this.listings.get(ref);
        if (known === undefined) throw new Error(`${purpose} of ${ref}, which the channel was never sent`);
        for (const [column, cell] of Object.entries(said)) known.set(column, cell);
      }
    }
  }

  row(ref: string): Texts {
    return Object.fromEntries([...(this.listings.get(ref) ?? [])].sort());
  }
}

const place = { file: "definition.yaml", line: 1 };
const fields = `
field | scope | label | kind    | list | need     | decimals | level  | max_length
ref   | *     | Ref   | text    |      | required |          |        |
set   | *     | Set   | text    |      | optional |          | group  |
shelf | *     | Shelf | text    |      | optional |          |        |
title | *     | Title | text    |      | required |          | group  | 30
words | *     | Words | text    |      | optional |          | group  |
hue   | *     | Hue   | text    |      | optional |          | member |
price | *     | Price | money   |      | required | 2        |        |
kroner| *     | Kroner| money   |      | optional | 0        |        |
count | *     | Count | integer |      | optional |          |        |
heft  | *     | Heft  | measure |      | optional |          |        |
shots | *     | Shots | text    | yes  | optional |          |        |
`;

const models = [
  "separate",
  "shared-id",
  "leading-member",
  "group-row",
  "nested",
] as const satisfies readonly GroupModel["model"][];

const channelOf = (model: GroupModel["model"]) => {
  const { definition, findings } = definitionOf({
    fields,
    source: {
      crossRules: [],
      currencies: ["GBP", "SEK"],
      roles: { price: "price" },
      categoryField: "shelf",
      groups: { model, toldApartBy: "ref", groupField: "set", place },
      purposes: [
        { purpose: "full", blank: "erase", place },
        { purpose: "amend", blank: "leave", must: ["ref"], place },
        { purpose: "offer", blank: "leave", must: ["ref", "price"], may: ["ref", "price", "count"], place },
        { purpose: "stock", blank: "leave", must: ["ref", "count"], may: ["ref", "count"], place },
        { purpose: "withdraw", blank: "leave", must: ["ref"], may: ["ref", "set"], place },
      ],
      layouts: [
        {
          name: "table",
          format: "csv",
          file: "stall.csv",
          settings: { escape: "\\" },
          place,
          columns: [
            "ref",
            "set",
            "shelf",
            "title",
            "words",
            "hue",
            { name: "amount", field: "price", part: "amount" },
            { name: "currency", field: "price", part: "currency" },
            { name: "kroner", field: "kroner", part: "amount" },
            { name: "kroner_in", field: "kroner", part: "currency" },
            "count",
            "heft",
            "shots",
          ],
        },
      ],
    },
  });
  if (findings.length > 0) throw new Error(JSON.stringify(findings));
  return definition;
};

const skus = ["a", "b", "c", "d"] as const;
const beginning: Readonly<Record<string, Texts>> = {
  a: { group: "G", varies_by: "color", color: "red" },
  b: { group: "G", varies_by: "color", color: "blue" },
  c: { group: "H", varies_by: "color", color: "red" },
  d: {},
};

/** Our side: a catalogue with its past, the pipeline, the real ledger, and the files of the last build. */
class Shop {
  private catalogue: Readonly<Record<string, Texts>> = Object.fromEntries(
    skus.map((sku) => [
      sku,
      {
        sku,
        name: `Spade ${sku < "c" ? "G" : sku}`,
        category: "Tools",
        price: "9 GBP",
        quantity: "3",
        images: "one|x.jpg\u001etwo.jpg",
        weight: "2 kg",
        ...beginning[sku],
      },
    ]),
  );
  private readonly past: (typeof this.catalogue)[] = [];
  private readonly ledger;
  private readonly definition;
  /** What is at hand of the ledger. */
  private recalled: ReadonlyMap<string, LedgerEntry> = new Map();
  private built: { readonly purpose: PurposeName; readonly file: string } | undefined;

  constructor(
    model: GroupModel["model"],
    readonly channel: SimpleChannel,
  ) {
    const database = new Database(":memory:");
    migrate(database);
    this.ledger = channelLedger(database, "stall");
    this.definition = channelOf(model);
  }

  edit(sku: string, attribute: string, text: string): void {
    this.past.push(this.catalogue);
    this.catalogue = { ...this.catalogue, [sku]: { ...this.catalogue[sku], [attribute]: text } };
  }

  undo(): void {
    this.catalogue = this.past.pop() ?? this.catalogue;
  }

  private get setup() {
    return {
      ...setupOf(this.definition, {
        fills: {
          ref: "sku",
          set: "group",
          title: "name",
          words: "description",
          hue: "color",
          price: "price",
          kroner: 'if quantity > 2 then money(quantity * 10.4, "SEK") else blank',
          count: "quantity",
          heft: "weight",
          shots: "images",
        },
      }),
      live: (sku: string) => this.live(sku),
    };
  }

  private live(sku: string): LiveListing | undefined {
    const listing = this.recalled.get(sku)?.listing;
    return listing?.withdrawn === true ? undefined : listing;
  }

  /** As the program does: the members by their SKUs, and the rows of their groups. */
  private async recall(): Promise<void> {
    const all = Object.values(this.catalogue);
    this.recalled = await this.ledger.of({
      skus: all.map(({ sku = "" }) => sku),
      groups: [...new Set(all.flatMap(({ group = "" }) => (group === "" ? [] : group)))],
    });
  }

  /** What becomes of each product, family by family. */
  private families(): readonly {
    readonly outcomes: readonly Outcome[];
    readonly shaped: readonly FileFamily[];
  }[] {
    const groups = new Map<string, Texts[]>();
    for (const texts of Object.values(this.catalogue)) {
      const key = texts["group"] ? `g ${texts["group"]}` : `s ${texts["sku"] ?? ""}`;
      groups.set(key, [...(groups.get(key) ?? []), texts]);
    }
    const { setup } = this;
    return [...groups.values()].map((members) => {
      const outcomes = outcomesOf(setup, ...members);
      return { outcomes, shaped: shape(outcomes, familyOf(members), setup) };
    });
  }

  async build(
    purpose: PurposeName,
    { changedOnly = false, keepLive = false, only = "" } = {},
  ): Promise<void> {
    await this.recall();
    const rule = this.definition.purposeRules.find((one) => one.purpose === purpose);
    const [whole] = this.definition.layouts;
    if (rule === undefined || whole === undefined) throw new Error("no such purpose");
    const facts: PurposeFacts = {
      ...{ purpose, rule, definition: this.definition, changedOnly, keepLive },
      fields: purposeFields(this.definition, rule),
      only: only === "" ? undefined : new Set(this.definition.fields.filter(({ code }) => code === only)),
      live: (sku) => this.live(sku),
    };
    const writer = csvWriter(layoutFor(whole, facts) as CsvLayout, {
      account: { title: "", shopUrl: "", description: "" },
      action: "",
    });
    const notes = await this.ledger.begin(purpose, "now", purpose);
    let file = writer.head();
    const going = textRegister();
    for (const [number, { outcomes, shaped }] of this.families().entries()) {
      for (const outcome of outcomes) if (outcome.kind !== "left-out") noteGoing(going, productOf(outcome));
      if (purpose === "withdraw") continue;
      for (const family of shaped) {
        const applied = purposes[purpose](family, facts);
        if (applied === undefined) continue;
        file += writer.family(applied);
        for (const row of rowsOf(applied)) {
          const entry = noted(row, facts);
          if (entry !== undefined) await notes.note(number, [entry]);
        }
      }
    }
    if (purpose === "withdraw")
      for (const { sku, listing } of (
        await endingListings(this.ledger, going, { ending: undefined, choice: everything } as never, "stall")
      ).entries) {
        file += writer.family(withdrawal(sku, listing, this.definition));
        await notes.note(-1, [keptListing(sku, { ...listing, withdrawn: true })]);
      }
    await notes.commit(["stall.csv"]);
    if (keepLive) this.expectKept(file);
    this.built = { purpose, file };
  }

  /** What is blank now stands there as the channel has it, cell by cell. */
  private expectKept(file: string): void {
    const { rows } = this.full();
    for (const row of parse(file, { columns: true }) as Record<string, string>[]) {
      const said = Object.fromEntries(Object.entries(row).filter(([, cell]) => cell !== ""));
      expect(said).toEqual({ ...this.channel.row(keyOf(said)), ...rows[keyOf(said)] });
    }
  }

  async send(): Promise<void> {
    if (this.built === undefined) return;
    const { file, purpose } = this.built;
    this.channel.take(file, purpose);
    await this.ledger.markSent({ kind: purpose, at: "now", whole: false, isTrial: false });
    this.built = undefined;
  }

  /** A row as the whole table shows it, without blank cells. */
  private shown(row: FileRow): Texts {
    const [whole] = this.definition.layouts;
    const writer = csvWriter(whole as CsvLayout, {
      account: { title: "", shopUrl: "", description: "" },
      action: "",
    });
    const [cells] = parse(writer.head() + writer.family({ group: undefined, members: [row] }), {
      columns: true,
    }) as Record<string, string>[];
    return Object.fromEntries(
      Object.entries(cells ?? {})
        .filter(([, cell]) => cell !== "")
        .sort(([a], [b]) => (a < b ? -1 : 1)),
    );
  }

  /** What we believe the channel has, as its file would show it. */
  async believed(): Promise<Readonly<Record<string, Texts>>> {
    const found: Record<string, Texts> = {};
    for await (const batch of this.ledger.entries())
      for (const { sku, listing } of batch) {
        if (listing.withdrawn === true) continue;
        const row = this.shown({
          kind: "single",
          sku,
          listing: undefined,
          category: undefined,
          value: (field) => liveValue(listing, field),
        });
        found[keyOf(row)] = row;
      }
    return found;
  }

  /** What a full build says, and what it is silent on because it is held back. */
  full(): { readonly rows: Readonly<Record<string, Texts>>; readonly held: readonly string[] } {
    const families = this.families();
    const rows = families.flatMap(({ shaped }) => shaped.flatMap(rowsOf));
    return {
      rows: Object.fromEntries(rows.map((row) => this.shown(row)).map((row) => [keyOf(row), row])),
      held: families.flatMap(({ outcomes }) =>
        outcomes.flatMap((one) =>
          one.kind === "held"
            ? [productOf(one).sku, productOf(one).group ?? "", `group ${productOf(one).group ?? ""}`]
            : [],
        ),
      ),
    };
  }
}

const edit = fc
  .tuple(
    fc.constantFrom(...skus),
    fc.constantFrom(
      ["price", "8 GBP"],
      ["price", "9.50 GBP"],
      ["price", "none"],
      ["quantity", "1"],
      ["quantity", ""],
      ["quantity", "7"],
      ["name", "Spade"],
      ["name", "A title far too long for this channel"],
      ["color", "green"],
      ["color", ""],
      ["description", "Digs; well"],
      ["description", ""],
      ["weight", "2.5 kg"],
      ["weight", ""],
      ["images", "three.jpg"],
      ["images", ""],
      ["keep_off", "stall"],
      ["keep_off", ""],
      ["group", "G"],
      ["group", "H"],
      ["group", ""],
      ["category", "Tools > Spades"],
      ["category", "Tools"],
    ),
  )
  .map(([sku, [attribute = "", text = ""]]) => ({ step: "edit" as const, sku, attribute, text }));
const build = fc.record({
  step: fc.constant("build" as const),
  purpose: fc.constantFrom<PurposeName>("full", "full", "amend", "offer", "stock", "withdraw"),
  changedOnly: fc.boolean(),
  keepLive: fc.boolean(),
  only: fc.constantFrom("", "", "price", "shelf", "hue"),
  isSent: fc.constantFrom(true, true, true, false),
});
const steps = fc.array(
  fc.oneof(
    { weight: 5, arbitrary: edit },
    { weight: 4, arbitrary: build },
    { weight: 1, arbitrary: fc.constant({ step: "undo" as const }) },
  ),
  { minLength: 3, maxLength: 25 },
);

describe("a channel after any sequence of edits, files and undos", () => {
  it("when files are applied by what a blank means, then the channel has what the ledger says, and at the end what a full build says", async () => {
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...models), steps, async (model, all) => {
        const channel = new SimpleChannel();
        const shop = new Shop(model, channel);
        const isTrue = async (): Promise<void> => {
          const has = Object.fromEntries(
            [...channel.listings.keys()].sort().map((ref) => [ref, channel.row(ref)]),
          );
          expect(
            Object.fromEntries(Object.entries(await shop.believed()).sort(([a], [b]) => (a < b ? -1 : 1))),
          ).toEqual(has);
        };
        for (const one of all) {
          if (one.step === "edit") shop.edit(one.sku, one.attribute, one.text);
          else if (one.step === "undo") shop.undo();
          else {
            await shop.build(
              one.purpose,
              one.purpose === "amend"
                ? { only: one.only }
                : { changedOnly: one.changedOnly, keepLive: one.purpose === "full" && one.keepLive },
            );
            if (one.isSent) await shop.send();
          }
          await isTrue();
        }
        await shop.build("full", { changedOnly: true });
        await shop.send();
        await shop.build("withdraw");
        await shop.send();
        await isTrue();
        const { rows, held } = shop.full();
        for (const [ref, row] of Object.entries(rows)) expect([ref, channel.row(ref)]).toEqual([ref, row]);
        const others = [...channel.listings.keys()].filter(
          (ref) => rows[ref] === undefined && !held.includes(ref),
        );
        expect(others).toEqual([]);
      }),
      { numRuns: runs(60, 3000) },
    );
  });
});
