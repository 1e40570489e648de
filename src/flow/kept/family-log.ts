/** What families came to, as plain columns: written by any thread, kept in files, read by the one who joins. */
import { partsNamed } from "../../core/catalogue/bundle.js";
import type { Family } from "../../core/catalogue/family.js";
import {
  familyNumbers,
  familyPlaces,
  FactsReader,
  FactsWriter,
  type FamilyFacts,
} from "../../core/catalogue/plain-facts.js";
import type { IdsBefore, ListedId } from "../../core/listing/check/listed-ids.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";

/** What the bundles of a family are made of. */
export interface Bundles {
  readonly family: number;
  readonly parts: readonly string[];
}

/** What some families came to: plain, so that it can go from thread to thread, and be kept. */
export interface LoggedPart {
  /** Of each family the ids of its listings, channel by channel, and then what the work itself has to say of it. */
  readonly facts: FamilyFacts;
  /** Ids that are not the SKUs themselves, by channel. */
  readonly ids: readonly (readonly ListedId[])[];
  /** Whether any of them is another SKU's too, so that what came of one family depends on another. */
  readonly hasMet: boolean;
  /** Families with bundles, and the SKUs of the parts that they depend on. */
  readonly bundles: readonly Bundles[];
}

/** What of a piece is handed over from thread to thread. */
export function memoryOfLogged({ facts }: LoggedPart): readonly ArrayBuffer[] {
  return [facts.ends.buffer, facts.numbers.buffer, facts.wordsAt.buffer, facts.families.buffer];
}

/** Writes down what families come to on some channels, stretch by stretch. */
export class FamilyLog {
  readonly facts = new FactsWriter();
  private bundles: Bundles[] = [];

  constructor(private readonly channels: readonly WorkspaceChannel[]) {}

  /** Begins a stretch; `before` as {@link IdsOfPart.begin} wants it, by channel. */
  begin(before: readonly IdsBefore[]): void {
    for (const [at, { setup }] of this.channels.entries()) setup.ids.begin(before[at]);
  }

  /** Writes a family down when all channels have looked at it. */
  family({ members, number }: Family, write: (facts: FactsWriter) => void): void {
    const { facts } = this;
    const parts = members.flatMap(partsNamed);
    if (parts.length > 0) this.bundles.push({ family: number, parts });
    for (const { setup } of this.channels) {
      const ids = setup.ids.fresh();
      facts.number(ids.length);
      for (const [id] of ids) facts.text(id);
    }
    write(facts);
    facts.endFamily(number);
  }

  take(): LoggedPart {
    const { bundles, channels } = this;
    this.bundles = [];
    return {
      facts: this.facts.take(),
      ids: channels.map(({ setup }) => setup.ids.all()),
      hasMet: channels.some(({ setup }) => setup.ids.hasMet()),
      bundles,
    };
  }
}

/** Reads the ids of families' listings alone, those of one channel after the other. */
export function readIds(
  families: FamilyFacts,
  channels: number,
  take: (channel: number, id: string) => void,
): void {
  for (const place of familyPlaces(families)) {
    const facts = FactsReader.of(place);
    for (let channel = 0; channel < channels; channel++)
      for (let ids = facts.number(); ids > 0; ids--) take(channel, facts.text());
  }
}

/** Reads what was written of families, one after the other: `read` is given what stands behind the ids, and reads all of it. */
export function readFamilies(
  families: FamilyFacts,
  channels: number,
  read: (facts: FactsReader, family: number) => void,
): void {
  const facts = new FactsReader(families);
  for (const number of familyNumbers(families)) {
    for (let channel = 0; channel < channels; channel++) facts.skip(facts.number(), 0);
    read(facts, number);
  }
}
