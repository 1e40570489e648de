/** Which products a command is about: shown each batch, then asked; it costs no pass of its own. */
import type { Family } from "../../core/catalogue/family.js";
import { textOf, type Product } from "../../core/catalogue/product.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { nearest } from "../../core/values/nearest.js";
import type { Io } from "../../io/io.js";
import { conditionOf } from "../condition.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import { refuseUnknownSkus } from "../refusals.js";
import { changedTest, lackingTest, type ChannelTest } from "./channel-tests.js";
import { everything, type Choice } from "./chosen.js";
import { isNarrowed, type ChoiceWishes } from "./choice-wishes.js";
import { categoryNames, namedCategory, namedGroup, type NamedValue } from "./named-value.js";
import { skusIn } from "./sku-list.js";

type Test = (product: Product) => boolean;

interface ProductTests {
  /** By names, which are looked at in every product: one that is nobody's is told from one that others leave nothing of. */
  readonly byName: readonly Test[];
  readonly tests: readonly Test[];
  readonly category: NamedValue | undefined;
  readonly group: NamedValue | undefined;
}

async function productTests(
  { store, surroundings }: OpenCatalogue,
  { where, category, group, sku }: ChoiceWishes,
  io: Io,
): Promise<ProductTests> {
  const named = {
    category: category === undefined ? undefined : namedCategory(category),
    group: group === undefined ? undefined : namedGroup(group),
  };
  const [byName, tests]: [Test[], Test[]] = [[], []];
  if (named.category !== undefined) {
    const { test } = named.category;
    byName.push((product) => test(textOf(product, "category") ?? ""));
  }
  if (named.group !== undefined) {
    const { test } = named.group;
    byName.push((product) => test(product.group ?? ""));
  }
  if (sku !== undefined) {
    const wanted = new Set(await skusIn(sku, io));
    await refuseUnknownSkus(wanted, store);
    tests.push((product) => wanted.has(product.sku));
  }
  if (where !== undefined) {
    const condition = conditionOf(where, await store.attributes(), await surroundings());
    tests.push((product) => condition.run(product) === true);
  }
  return { byName, tests, ...named };
}

const passesAll = ({ byName, tests }: ProductTests, product: Product): boolean =>
  byName.reduce((passes, test) => test(product) && passes, true) && tests.every((test) => test(product));

/**
 * The choice that wishes ask for; `channels` are those that `changed` is asked of.
 * @throws Refusal for a condition that is faulty, SKUs that nobody knows, a channel that is not in use
 */
export async function chooseProducts(
  open: OpenCatalogue,
  wishes: ChoiceWishes,
  io: Io,
  channels: readonly string[] = open.workspace.channelsInUse,
): Promise<Choice> {
  if (!isNarrowed(wishes)) return everything;
  const { lacking, changed } = wishes;
  const asked = await productTests(open, wishes, io);
  const { category, group } = asked;
  const held = lacking === undefined ? undefined : await lackingTest(open, lacking);
  const differing = changed === true ? await Promise.all(channels.map((one) => changedTest(open, one))) : [];
  // By their texts and not by hashes of them: what is chosen may be removed or withdrawn.
  const meant = new Set<string>();
  // Where channels decide, each has its own.
  const onChannel = new Map(differing.map(({ channel }) => [channel, new Set<string>()]));
  let passed = 0;
  const lookAt = (family: Family): void => {
    const own = family.members.filter((product) => passesAll(asked, product));
    passed += own.length;
    if (own.length === 0) return;
    const lack = held === undefined ? undefined : held.skusOf(family);
    const left = own.filter(({ sku }) => lack?.has(sku) !== false);
    if (left.length === 0) return;
    for (const test of differing) {
      const skus = test.skusOf(family);
      for (const { sku } of left)
        if (skus.has(sku)) {
          onChannel.get(test.channel)?.add(sku);
          meant.add(sku);
        }
    }
    if (changed !== true) for (const { sku } of left) meant.add(sku);
  };
  return {
    isAll: false,
    async look(families) {
      const onChannels: readonly ChannelTest[] = held === undefined ? differing : [held, ...differing];
      for (const test of onChannels) await test.recall(families);
      families.forEach(lookAt);
    },
    isMeant: ({ sku }, channel = "") => (onChannel.get(channel) ?? meant).has(sku),
    refuseNothing() {
      if (category?.isKnown === false)
        refuseName("unknown-own-category", wishes.category, categoryNames(category.seen));
      if (group?.isKnown === false) refuseName("unknown-group", wishes.group, new Set(group.seen));
      if (passed === 0) throw new Refusal([diagnostic("nothing-chosen", { by: chosenBy(wishes) })], 1);
    },
  };
}

function refuseName(
  code: "unknown-own-category" | "unknown-group",
  name = "",
  known: ReadonlySet<string>,
): never {
  throw new Refusal([diagnostic(code, { name, nearest: nearest(name, known) })]);
}

/** The options that chose, as they were written. */
const chosenBy = ({ where, category, group, sku }: ChoiceWishes): readonly string[] =>
  Object.entries({ where, category, group, sku }).flatMap(([name, text]) =>
    text === undefined ? [] : [`--${name} ${text}`],
  );
