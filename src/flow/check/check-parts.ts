/** One stretch of the catalogue, checked: what comes of it is data. */
import { besideFacts } from "../../core/catalogue/beside/beside.js";
import type { Family } from "../../core/catalogue/family.js";
import { textOf } from "../../core/catalogue/product.js";
import { judgedOf, JudgedReader, writeAll, type Judged, type KeptJudged } from "../../core/listing/judged.js";
import type { FactsReader, FamilyFacts } from "../../core/catalogue/plain-facts.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { everything, type Choice } from "../choice/chosen.js";
import { FamilyLog, readFamilies, type LoggedPart } from "../kept/family-log.js";
import type { PartWork } from "../parts/in-parts.js";
import { channelPass } from "../run-channels.js";
import { isOutcomeMeant, type Narrowing } from "./narrowing.js";

/** What is to be looked at, as data. */
export type CheckWork = Pick<Narrowing, "placedIn">;

/** Checks one stretch of the catalogue after the other. */
export async function checkParts(
  { store }: { readonly store: Store },
  channels: readonly WorkspaceChannel[],
  work: CheckWork & { readonly choice?: Choice },
): Promise<PartWork<LoggedPart>> {
  const { choice = everything } = work;
  const log = new FamilyLog(channels);
  const writeBeside = besideFacts();
  const judged: Judged[][] = channels.map(() => []);
  const write = (family: Family): void =>
    log.family(family, (facts) => {
      const { members } = family;
      const meant = choice.isAll ? members : members.filter((product) => choice.isMeant(product));
      facts.number(meant.length);
      const [first = "", ...others] = categoriesOf(family, channels);
      facts.word(first);
      facts.number(others.length);
      for (const other of others) facts.word(other);
      writeBeside(family, facts);
      for (const outcomes of judged) writeAll(outcomes.splice(0), facts);
    });
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
    log.begin(before);
    await pass(store.families(range));
    return log.take();
  };
}

/** The categories that a family's products are in, on any channel; that of the first product first. */
function categoriesOf(family: Family, channels: readonly WorkspaceChannel[]): readonly string[] {
  const found = new Set(family.members.slice(0, 1).map((product) => textOf(product, "category") ?? ""));
  // Where no layer is for a channel alone, all channels are given the same members: looked at once.
  for (const own of new Set([
    family.members,
    ...channels.map(({ setup }) => family.membersOn(setup.channel)),
  ]))
    for (const product of own) {
      const category = textOf(product, "category");
      if (category !== undefined) found.add(category);
    }
  return [...found];
}

/** Takes what was written of families, one after the other, each in this order. */
export interface CheckedVisitor {
  /** Products that are meant; our categories of them all, that of the first first; and what is to be known beside other families, to be read at once. */
  family(products: number, categories: readonly string[], beside: FactsReader): void;
  outcome(channel: number, kept: KeptJudged): void;
}

/** Reads what {@link checkParts} wrote of families, stretch by stretch. */
export function checkedReader(channels: number): (families: FamilyFacts, visitor: CheckedVisitor) => void {
  const readers = Array.from({ length: channels }, () => new JudgedReader());
  return (families, visitor) =>
    readFamilies(families, channels, (facts) => {
      const [products, first, others] = [facts.number(), facts.word(), facts.number()];
      const categories = [first, ...Array.from({ length: others }, () => facts.word())];
      visitor.family(products, categories, facts);
      for (const [channel, reader] of readers.entries())
        reader.all(facts, (kept) => visitor.outcome(channel, kept));
    });
}
