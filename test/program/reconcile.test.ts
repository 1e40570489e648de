import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { smallShop } from "../kit/demo-shop.js";
import { lexicant } from "../kit/run.js";
import {
  reaching,
  startSandbox,
  type RunningSandbox,
  exchanging as run,
  exchangingJson as json,
} from "../kit/sandbox.js";

const channels = ["merrowgate", "gavelstead", "fjordhandel", "chatterquay", "lanternlist"] as const;
const built = smallShop();
lexicant(built, ["build"]);

let sandbox: RunningSandbox;
let shop: string;
beforeAll(async () => {
  sandbox = await startSandbox();
  shop = reaching(built, sandbox, channels);
  for (const channel of channels) expect(run(shop, "submit", channel, "--wait").exit).toBe(0);
});
afterAll(() => sandbox.stop());

/** A column of free text, one of a choice or number, and one with the price, by channel: of the definition's pages, not of our code. */
const columns = {
  merrowgate: { ref: "item_ref", texts: ["item_title", "full_text"], price: "sell_price", wrong: "1.11 GBP" },
  gavelstead: { ref: "lot_number", texts: ["maker_mark", "origin"], price: "asked_price", wrong: "1.11 GBP" },
  fjordhandel: { ref: "stock_no", texts: ["producer_no", "origin"], price: "price_eur", wrong: "1,11" },
  chatterquay: { ref: "post_no", texts: ["said_short", "said_long"], price: "costs", wrong: "1.11 GBP" },
  lanternlist: { ref: "ref", texts: ["headline", "words"], price: "amount", wrong: "1.11" },
} as const;

const fields: Readonly<Record<string, string>> = { amount: "price" };

describe("what a channel shows, held against what it should", () => {
  it.each(channels)(
    "when many differences are planted at %s, then all are found, and none is invented",
    async (channel) => {
      const { ref, texts, price, wrong } = columns[channel];
      const shown = Object.entries(await sandbox.shown(channel)).filter(([, { isGroup }]) => !isGroup);
      const order =
        fc.sample(fc.shuffledSubarray(shown, { minLength: 20, maxLength: 20 }), { seed: 7, numRuns: 1 })[0] ??
        [];
      const planted = new Set<string>();
      for (const [index, [reference]] of order.entries()) {
        const kind = index % 5;
        if (kind === 0) {
          planted.add(`not live ${reference}`);
          await sandbox.say({ channel, reference, cells: null });
        } else if (kind === 1) {
          planted.add(`not ours OTHER-${index}`);
          await sandbox.say({ channel, reference: `OTHER-${index}`, cells: { [ref]: `OTHER-${index}` } });
        } else {
          const column = kind === 4 ? price : (texts[index % 2] ?? "");
          planted.add(`differs ${reference} ${fields[column] ?? column}`);
          await sandbox.say({
            channel,
            reference,
            cells: { [column]: kind === 4 ? wrong : `Changed there ${index}` },
          });
        }
      }
      expect(planted.size).toBe(20);
      const found = json(shop, "reconcile", channel)
        .filter(({ type }) => type === "disagreement")
        .map(({ kind, sku, field = "" }) => `${String(kind)} ${String(sku)} ${String(field)}`.trim());
      expect(new Set(found)).toEqual(planted);
      expect(found).toHaveLength(20);
      // Mended, and nothing is left to be told.
      run(shop, "reconcile", channel, "--fix", "--yes");
      const purposes =
        json(shop, "jobs", channel)[0]?.["whole"] === true ? ["full"] : ["amend", "full", "withdraw"];
      for (const purpose of purposes)
        run(
          shop,
          "submit",
          channel,
          "--purpose",
          purpose,
          "--wait",
          ...(purposes.length === 1 ? ["--repeat"] : []),
        );
      expect(run(shop, "reconcile", channel).out).toMatch(
        /shows [\d,]+ listings?: [\d,]+ as they should be\n$/,
      );
    },
  );

  it("when a price is changed here, then what the channel shows is stale; other fields only wait", () => {
    run(shop, "set", "BC-1402", "price=12.30 GBP");
    run(shop, "set", "BC-1402", "--channel", "chatterquay", "description=Other words for the brush.");
    const found = json(shop, "reconcile", "chatterquay");
    expect(found[0]).toMatchObject({ kind: "stale", sku: "BC-1402", field: "costs", now: "12.30 GBP" });
    expect(found.at(-1)).toMatchObject({ type: "reconcile", stale: 1, differs: 0, waiting: 1 });
    run(shop, "reconcile", "chatterquay", "--fix");
    expect(run(shop, "submit", "chatterquay", "--wait").out).toContain("1 accepted");
    expect(run(shop, "reconcile", "chatterquay").exit).toBe(0);
  });

  it.each(channels)(
    "when the ledger of %s is lost, then an export makes it anew, and the next build changes nothing there",
    (channel) => {
      const fresh = reaching(built, sandbox, [channel]);
      expect(run(fresh, "ledger", channel).out).toContain("nothing was sent yet");
      const first = run(fresh, "reconcile", channel, "--adopt");
      expect(first.exit).toBe(0);
      expect(first.out).toMatch(/noted as what .* has\. Not so\? lexicant undo \d+/);
      const rows = json(fresh, "ledger", channel).filter(({ state }) => state === "live");
      expect(rows.length).toBeGreaterThan(30);
      expect(rows.every(({ id }) => String(id) !== "")).toBe(true);
      const changes = json(fresh, "diff", channel).at(-1);
      // BC-1402 was changed in the other workspace alone.
      expect(changes).toMatchObject({ new: 0, ended: 0 });
      expect(Number(changes?.["changed"])).toBeLessThanOrEqual(1);
      run(fresh, "undo");
      expect(run(fresh, "ledger", channel).out).toContain("nothing was sent yet");
    },
  );
});
