import { rmSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { emptyShop } from "../kit/demo-shop.js";
import { runs } from "../kit/runs.js";
import { goodsCsv, withGoodsSource } from "../kit/goods.js";
import { jsonLines, lexicant, lexicantProcess, lexicantStarted, write } from "../kit/run.js";

const killedAfter = (shop: string, args: readonly string[], milliseconds: number): Promise<boolean> =>
  new Promise((resolve) => {
    const started = lexicantStarted(shop, args);
    const timer = setTimeout(() => started.kill("SIGKILL"), milliseconds);
    started.on("exit", (_, signal) => {
      clearTimeout(timer);
      resolve(signal === "SIGKILL");
    });
  });

const KILLS = runs(4, 100);
const PRODUCTS = 1000;

/** How long a command takes in a process of its own, its start included: kills are spread over that. */
const wholeTime = (shop: string, args: readonly string[]): number => {
  const begun = performance.now();
  expect(lexicantProcess(shop, args).exit).toBeLessThan(2);
  return performance.now() - begun;
};

describe("killed at any moment", () => {
  it("when imports are killed again and again, then the catalogue is always that of a finished import", async () => {
    const shop = emptyShop();
    withGoodsSource(shop);
    const prices = ["10.00", "20.00"];
    for (const [index, price] of prices.entries())
      write(
        shop,
        `data/goods-${index}.csv`,
        goodsCsv(PRODUCTS, (row) => (row[3] = price)),
      );
    expect(lexicant(shop, ["import", "data/goods-0.csv", "--source", "goods", "--quiet"]).exit).toBe(0);
    const whole = wholeTime(shop, ["import", "data/goods-1.csv", "--source", "goods", "--quiet"]);
    let [killed, current, time] = [0, "20.00", whole];
    for (let kill = 0; kill < KILLS; kill++) {
      const next = kill % 2;
      // From its first moment to about its end, so that every stage is hit.
      const begun = performance.now();
      if (
        await killedAfter(
          shop,
          ["import", `data/goods-${next}.csv`, "--source", "goods", "--quiet"],
          time * (0.25 + (0.8 * kill) / KILLS),
        )
      )
        killed++;
      // It ended by itself: the machine is faster than it was when the whole was measured.
      else time = Math.min(time, performance.now() - begun);
      const products = jsonLines(lexicant(shop, ["list", "--json"]).out);
      expect(products).toHaveLength(PRODUCTS);
      const seen = new Set(products.map(({ price }) => String(price).slice(0, 5)));
      expect(seen.size, `after kill ${kill} the prices are of one import`).toBe(1);
      const [now = ""] = seen;
      expect([current, prices[next]]).toContain(now);
      current = now;
      rmSync(join(shop, "out"), { recursive: true, force: true });
    }
    expect(killed).toBeGreaterThan(KILLS / 2);
    expect(lexicant(shop, ["import", "data/goods-0.csv", "--source", "goods", "--quiet"]).exit).toBe(0);
  }, 240_000);
});
