import { readFile } from "node:fs/promises";
import { resolve } from "node:path";
import { isUnder } from "../../core/values/category-path.js";
import type { Family } from "../../core/catalogue/family.js";
import { textOf, type Product } from "../../core/catalogue/product.js";
import { isHeld, productOf } from "../../core/listing/listing.js";
import { pipelineFor } from "../../core/listing/pipeline.js";
import { readFault } from "../../formats/file-fault.js";
import type { Io } from "../../io/io.js";
import type { Store } from "../../store/store.js";
import { conditionOf } from "../condition.js";
import { refuseUnknownSkus } from "../refusals.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import { loadChannel } from "../run-channels.js";

/** Products that meet all that was asked for, in catalogue order; they can be gone through several times. */
export type ChosenProducts = () => AsyncGenerator<Product>;

export type Test = (product: Product) => boolean;

/** SKUs named on the command line or in a file; refuses those that nobody knows, all at once. */
const skuTest = async (list: string, store: Store, io: Io): Promise<Test> => {
  const text = list.startsWith("@")
    ? await readFile(resolve(io.cwd, list.slice(1)), "utf8").catch((error: unknown) => {
        throw readFault(list.slice(1), error);
      })
    : list.replaceAll(",", "\n");
  const wanted = new Set(
    text
      .split(/\r?\n/)
      .map((sku) => sku.trim())
      .filter(Boolean),
  );
  await refuseUnknownSkus(wanted, store);
  return ({ sku }) => wanted.has(sku);
};

/** What of a product decides whether it is meant. */
export interface ProductWishes {
  readonly where?: string | undefined;
  readonly category?: string | undefined;
  readonly group?: string | undefined;
  /** SKUs with commas between, or `@` and a file of them. */
  readonly sku?: string | undefined;
}

export interface ExportWishes extends ProductWishes {
  /** A channel: only what is held there. */
  readonly lacking?: string | undefined;
  /** A channel: products with its own layers. */
  readonly forChannel?: string | undefined;
}

/** A test by condition, category, group and SKUs; undefined where all products are meant. */
export const productTest = async (
  { store, surroundings }: OpenCatalogue,
  { where, category, group, sku }: ProductWishes,
  io: Io,
): Promise<Test | undefined> => {
  const tests: Test[] = [];
  if (where !== undefined) {
    const condition = conditionOf(where, await store.attributes(), await surroundings());
    tests.push((product) => condition.run(product) === true);
  }
  if (category !== undefined) tests.push((product) => isUnder(textOf(product, "category") ?? "", category));
  if (group !== undefined) tests.push((product) => product.group === group);
  if (sku !== undefined) tests.push(await skuTest(sku, store, io));
  return tests.length === 0 ? undefined : (product) => tests.every((test) => test(product));
};

export const chosenProducts = async (
  open: OpenCatalogue,
  wishes: ExportWishes,
  io: Io,
): Promise<ChosenProducts> => {
  const { workspace, store, surroundings } = open;
  const { lacking, forChannel } = wishes;
  const test = (await productTest(open, wishes, io)) ?? (() => true);
  const seen = (family: Family): readonly Product[] =>
    (forChannel === undefined ? family.members : family.membersOn(forChannel)).filter((product) =>
      test(product),
    );
  if (lacking === undefined)
    return async function* () {
      for await (const families of store.families()) for (const family of families) yield* seen(family);
    };
  const channel = await loadChannel(workspace, store, lacking, await surroundings());
  const pipeline = pipelineFor(channel.setup, () => undefined);
  return async function* () {
    for await (const families of store.families()) {
      await channel.recall(families);
      for (const family of families) {
        // The channel's own prices and stock stay out of the sheet: coming back, they would be taken for edits.
        const held = new Set(
          pipeline(family)
            .filter(isHeld)
            .map((one) => productOf(one).sku),
        );
        yield* seen(family).filter(({ sku: own }) => held.has(own));
      }
    }
  };
};
