import { describe, expect, it } from "vitest";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { emptyShop } from "../kit/demo-shop.js";
import { jsonLines, lexicant, write } from "../kit/run.js";
import { shown, storeIn } from "../kit/store.js";

const page = readFileSync(new URL("../../docs/importing.md", import.meta.url), "utf8");

interface Example {
  readonly heading: string;
  /** Files in their order: data, and the sources that read them. */
  readonly files: readonly (readonly [name: string, text: string])[];
  readonly result: readonly string[];
}

const examples: readonly Example[] = page
  .split(/^## /m)
  .slice(1)
  .flatMap((section) => {
    const [heading = ""] = section.split("\n");
    const blocks = [...section.matchAll(/^```(\w+)(?: (\S+))?\n(.*?)^```$/gms)];
    const result = blocks.find(([, kind]) => kind === "result")?.[3];
    const files = blocks.flatMap(([, , name, text = ""]) =>
      name === undefined ? [] : [[name, text] as const],
    );
    return result === undefined ? [] : [{ heading, files, result: result.trim().split("\n") }];
  });

/** What one channel sees of a product. */
async function seenBy(shop: string, sku: string, channel: string, names: readonly string[]): Promise<string> {
  const layers = ["lanternlist", "storefront"].map((one) => ({ layer: `shop-${one}`, channel: one }));
  const store = await storeIn(join(shop, ".lexicant"), [{ layer: "shop" }, ...layers]);
  const values = (await shown(store, sku, names.join(","), channel)).split(",");
  await store.close();
  return names.map((name, at) => `${name}=${values[at] ?? ""}`).join("; ");
}

describe("the page on importing", () => {
  it("when it is read, then it has an example for each shape of file", () => {
    expect(examples.length).toBeGreaterThanOrEqual(8);
  });

  it.each(examples.map((example) => [example.heading, example] as const))(
    "when its example %j is followed, then just what it says comes of it",
    async (_, { files, result }) => {
      const shop = emptyShop();
      write(
        shop,
        "lexicant.yaml",
        "shop: B\nlanguage: en\ncurrency: GBP\nlayers: [shop, stock]\nchannels: [lanternlist, storefront]\n",
      );
      for (const [name, text] of files) write(shop, name, text);
      for (const [name] of files)
        if (!name.startsWith("sources/")) {
          const ran = lexicant(shop, ["import", name]);
          expect([name, ran.exit === 0 || /rejected/.test(ran.out), ran.err]).toEqual([name, true, ""]);
        }
      const products = new Map(
        jsonLines(lexicant(shop, ["list", "--json"]).out).map((one) => [String(one["sku"]), one]),
      );
      const lines = [...products].map(([sku, product]) => {
        const line = result.find((one) => one.startsWith(`${sku} `)) ?? "";
        const named = line
          .slice(sku.length + 1)
          .split("; ")
          .map((pair) => pair.slice(0, pair.indexOf("=")));
        const others = Object.keys(product).filter(
          (key) => key !== "sku" && key !== "type" && !named.includes(key),
        );
        return `${sku} ${[...named, ...others]
          .map((key) => `${key}=${[product[key]].flat().join(", ")}`)
          .join("; ")}`;
      });
      const forOne = result.filter((line) => / for \w+: /.test(line));
      expect(lines.sort()).toEqual(result.filter((line) => !forOne.includes(line)).sort());
      for (const line of forOne) {
        const [, sku = "", channel = "", values = ""] = /^(\S+) for (\w+): (.*)$/.exec(line) ?? [];
        const names = values.split("; ").map((pair) => pair.slice(0, pair.indexOf("=")));
        expect(`${sku} ${await seenBy(shop, sku, channel, names)}`).toBe(`${sku} ${values}`);
      }
    },
  );
});
