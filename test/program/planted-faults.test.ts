import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { jsonLines, lexicant, projectRoot, temporaryFolder, write } from "../kit/run.js";

type Json = Readonly<Record<string, unknown>>;

interface Fault {
  readonly kind: string;
  readonly sku: string;
  readonly attribute?: string;
}

interface Shop {
  readonly name: string;
  readonly currency: string;
  readonly baseSource: string;
  readonly baseFile: string;
}

interface Delivery {
  readonly source: string;
  readonly file: string;
  readonly yaml: string;
  readonly content: string;
  readonly faults: readonly Fault[];
}

const load = (path: string): Promise<unknown> => import(join(projectRoot, "bench", path));
const { shops, deliveries } = (await load("incoming/shops.mjs")) as {
  readonly shops: readonly Shop[];
  deliveries(shop: Shop): readonly Delivery[];
};
const { outcome } = (await load("incoming.mjs")) as {
  outcome(fault: Fault, product: Json | undefined, findings: readonly Json[]): string;
};

describe("deliveries with planted faults", () => {
  it.each(shops.map((shop) => [shop.name, shop] as const))(
    "when those of %s come in, then each fault is settled or told, and none in silence",
    (_, shop) => {
      const home = temporaryFolder();
      write(
        home,
        "lexicant.yaml",
        `shop: ${shop.name}\nlanguage: en\ncurrency: ${shop.currency}\nlayers: [base, late]\n`,
      );
      write(home, "sources/base.yaml", shop.baseSource);
      write(home, "base.csv", shop.baseFile);
      lexicant(home, ["import", "base.csv"]);
      const wrong: string[] = [];
      for (const { source, file, yaml, content, faults } of deliveries(shop)) {
        write(home, `sources/${source}.yaml`, yaml);
        write(home, file, content);
        const findings = jsonLines(lexicant(home, ["import", file, "--source", source, "--json"]).out);
        const products = new Map(
          jsonLines(lexicant(home, ["list", "--json"]).out).map((one) => [one["sku"], one]),
        );
        for (const fault of faults) {
          const found = outcome(fault, products.get(fault.sku), findings);
          if (found !== "right" && found !== "refused")
            wrong.push(`${found}: ${fault.kind}, ${fault.sku} ${fault.attribute ?? ""}`);
        }
        lexicant(home, ["undo"]);
      }
      expect(wrong).toEqual([]);
    },
  );
});
