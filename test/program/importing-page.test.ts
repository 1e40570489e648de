import { describe, expect, it } from "vitest";
import { readFileSync } from "node:fs";
import { emptyShop } from "../kit/demo-shop.js";
import { jsonLines, lexicant, write } from "../kit/run.js";

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

describe("the page on importing", () => {
  it("when it is read, then it has an example for each shape of file", () => {
    expect(examples.length).toBeGreaterThanOrEqual(8);
  });

  it.each(examples.map((example) => [example.heading, example] as const))(
    "when its example %j is followed, then just what it says comes of it",
    (_, { files, result }) => {
      const shop = emptyShop();
      write(shop, "lexicant.yaml", "shop: B\nlanguage: en\ncurrency: GBP\nlayers: [shop, stock]\n");
      for (const [name, text] of files) write(shop, name, text);
      for (const [name] of files)
        if (!name.startsWith("sources/")) {
          const ran = lexicant(shop, ["import", name]);
          expect([name, ran.exit === 0 || /rejected/.test(ran.out), ran.err]).toEqual([name, true, ""]);
        }
      const products = new Map(
        jsonLines(lexicant(shop, ["list", "--json"]).out).map((one) => [String(one["sku"]), one]),
      );
      const shown = [...products].map(([sku, product]) => {
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
      expect(shown.sort()).toEqual([...result].sort());
    },
  );
});
