import { besideFacts } from "../../core/catalogue/beside/beside.js";
import { partsNamed } from "../../core/catalogue/bundle.js";
import type { Family } from "../../core/catalogue/family.js";
import { textOf } from "../../core/catalogue/product.js";
import type { ListedId } from "../../core/listing/check/listed-ids.js";
import {
  judgedOf,
  JudgedReader,
  writeJudged,
  type Judged,
  type KeptJudged,
} from "../../core/listing/judged.js";
import {
  familyCount,
  familyPlaces,
  FactsReader,
  FactsWriter,
  type FamilyFacts,
} from "../../core/catalogue/plain-facts.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { everything, type Choice } from "../choice/chosen.js";
import type { PartWork } from "../parts/in-parts.js";
import { channelPass } from "../run-channels.js";
import { isOutcomeMeant, type Narrowing } from "./narrowing.js";

/** What is to be looked at, as data. */
export type CheckWork = Pick<Narrowing, "placedIn">;

/** What the bundles of a family are made of. */
export interface Bundles {
  readonly family: number;
  readonly parts: readonly string[];
}

/** What some families came to: plain, so that it can go from thread to thread, and be kept. */
export interface CheckedPart {
  /** What is to be known of each family, for {@link familiesReader}. */
  readonly facts: FamilyFacts;
  /** Ids that are not the SKUs themselves, by channel. */
  readonly ids: readonly (readonly ListedId[])[];
  /** Whether any of them is another SKU's too, so that what came of one family depends on another. */
  readonly hasMet: boolean;
  /** Families with bundles, and the SKUs of the parts that they depend on. */
  readonly bundles: readonly Bundles[];
}

/** What of a piece is handed over from thread to thread. */
export const memoryOfChecked = ({ facts }: CheckedPart): readonly ArrayBuffer[] => [
  facts.ends.buffer,
  facts.numbers.buffer,
  facts.wordsAt.buffer,
  facts.families.buffer,
];

/** Checks one stretch of the catalogue after the other. */
export const checkParts = async (
  { store }: { readonly store: Store },
  channels: readonly WorkspaceChannel[],
  work: CheckWork & { readonly choice?: Choice },
): Promise<PartWork<CheckedPart>> => {
  const { choice = everything } = work;
  const facts = new FactsWriter();
  const writeBeside = besideFacts();
  const judged: Judged[][] = channels.map(() => []);
  let bundles: Bundles[] = [];
  /** When all channels have taken what became of a family. */
  const write = (family: Family): void => {
    const { members, number } = family;
    const meant = choice.isAll ? members : members.filter((product) => choice.isMeant(product));
    const parts = members.flatMap(partsNamed);
    if (parts.length > 0) bundles.push({ family: number, parts });
    for (const { setup } of channels) {
      const ids = setup.ids.fresh();
      facts.number(ids.length);
      for (const [id] of ids) facts.text(id);
    }
    facts.number(meant.length);
    facts.word(members[0] === undefined ? "" : (textOf(members[0], "category") ?? ""));
    writeBeside(family, facts);
    for (const outcomes of judged) {
      facts.number(outcomes.length);
      for (const one of outcomes.splice(0)) writeJudged(one, facts);
    }
    facts.endFamily(number);
  };
  const pass = await channelPass(
    store,
    channels.map((channel, at) => {
      const isWithin = isOutcomeMeant(work, channel);
      return {
        channel,
        take(outcome) {
          if (isWithin(outcome)) judged[at]?.push(judgedOf(outcome));
        },
        ...(at === channels.length - 1 ? { family: (_: unknown, family: Family) => write(family) } : {}),
      };
    }),
    { choice },
  );
  return async (range, before = []) => {
    for (const [at, { setup }] of channels.entries()) setup.ids.begin(before[at]);
    await pass(store.families(range));
    const made: CheckedPart = {
      facts: facts.take(),
      ids: channels.map(({ setup }) => setup.ids.all()),
      hasMet: channels.some(({ setup }) => setup.ids.hasMet()),
      bundles,
    };
    bundles = [];
    return made;
  };
};

/** Takes what was written of families, one after the other, each in this order. */
export interface CheckedVisitor {
  /** Products that are meant; our category of the first of all; and what is to be known beside other families, to be read at once. */
  family(products: number, category: string | undefined, beside: FactsReader): void;
  outcome(channel: number, kept: KeptJudged): void;
}

/** Reads the ids of families' listings alone, those of one channel after the other. */
export const readIds = (
  families: FamilyFacts,
  channels: number,
  take: (channel: number, id: string) => void,
): void => {
  for (const place of familyPlaces(families)) {
    const facts = FactsReader.of(place);
    for (let channel = 0; channel < channels; channel++)
      for (let ids = facts.number(); ids > 0; ids--) take(channel, facts.text());
  }
};

/** Reads what was written of families, stretch by stretch. */
export const familiesReader = (channels: number): ((facts: FamilyFacts, visitor: CheckedVisitor) => void) => {
  const readers = Array.from({ length: channels }, () => new JudgedReader());
  return (families, visitor) => {
    const facts = new FactsReader(families);
    for (let left = familyCount(families); left > 0; left--) {
      for (let channel = 0; channel < channels; channel++) facts.skip(facts.number(), 0);
      const [products, category] = [facts.number(), facts.word()];
      visitor.family(products, category === "" ? undefined : category, facts);
      for (const [channel, reader] of readers.entries())
        for (let outcomes = facts.number(); outcomes > 0; outcomes--)
          visitor.outcome(channel, reader.next(facts));
    }
  };
};
