/** One stretch of the catalogue on all channels: rows as bytes, and what is said of each product. */
import type { Family } from "../../core/catalogue/family.js";
import { JudgedReader, writeAll, type KeptJudged } from "../../core/listing/judged.js";
import type { Outcome } from "../../core/listing/listing.js";
import type { FamilyFacts } from "../../core/catalogue/plain-facts.js";
import type { Workspace } from "../../workspace/workspace.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Store } from "../../store/store.js";
import { everything, type Choice } from "../choice/chosen.js";
import { FamilyLog, memoryOfLogged, readFamilies, type LoggedPart } from "../kept/family-log.js";
import type { PartWork } from "../parts/in-parts.js";
import { channelPass } from "../run-channels.js";
import { accountFacts } from "./account-facts.js";
import type { BuildWishes } from "./build-wishes.js";
import { confirmedOn } from "./confirmed-prices.js";
import { partBuild, type BuiltPart } from "./part-build.js";

/** What a build wishes of each product, as data; of a choice of products there is none. */
export type BuildWork = Omit<BuildWishes, "choice"> & { readonly choice?: Choice | undefined };

/** What one part of the catalogue came to on all channels: what is to be said of each product, and what is in the files. */
export interface BuiltParts extends LoggedPart {
  /** In the order of the channels. */
  readonly files: readonly BuiltPart[];
}

/** The bytes of laid-out families, and what is said of each product. */
export function memoryOfBuilt(parts: BuiltParts): readonly ArrayBuffer[] {
  return [
    ...memoryOfLogged(parts),
    ...parts.files.flatMap(({ pieces }) =>
      pieces.flatMap((piece) => (piece.kind === "text" ? [piece.bytes.buffer] : [])),
    ),
  ];
}

/** Builds each channel's share of one stretch of the catalogue after the other. */
export async function buildParts(
  { workspace, store }: { readonly workspace: Workspace; readonly store: Store },
  channels: readonly WorkspaceChannel[],
  work: BuildWork,
): Promise<PartWork<BuiltParts>> {
  const wishes: BuildWishes = { ...work, choice: work.choice ?? everything };
  const builds = channels
    .map((channel) => confirmedOn(channel, wishes.confirmedPrices))
    .map((channel) => partBuild(channel, accountFacts(workspace, channel), wishes));
  const log = new FamilyLog(channels);
  const write = (family: Family): void =>
    log.family(family, (facts) => {
      for (const build of builds) {
        const { isWritten, outcomes, omitted } = build.last();
        facts.number(isWritten ? 1 : 0);
        writeAll(outcomes, facts);
        writeAll(omitted, facts);
      }
    });
  const runs = builds.map((build, at) =>
    at < builds.length - 1
      ? build
      : {
          ...build,
          family(outcomes: readonly Outcome[], family: Family) {
            build.family(outcomes, family);
            write(family);
          },
        },
  );
  const pass = await channelPass(store, runs, { choice: wishes.choice });
  return async (range, before = []) => {
    log.begin(before);
    await pass(store.families(range));
    return { ...log.take(), files: builds.map((build) => build.end()) };
  };
}

/** Takes what was written of families, one after the other. */
export interface BuiltVisitor {
  /** A family of which the channel's files hold something. */
  written(family: number): void;
  outcome(channel: number, kept: KeptJudged): void;
  /** A ready listing that is not for these files. */
  omitted(channel: number, kept: KeptJudged): void;
}

/** Reads what {@link buildParts} wrote of families, stretch by stretch. */
export function builtReader(channels: number): (families: FamilyFacts, visitor: BuiltVisitor) => void {
  const readers = Array.from({ length: channels }, () => new JudgedReader());
  return (families, visitor) =>
    readFamilies(families, channels, (facts, family) => {
      for (const [channel, reader] of readers.entries()) {
        if (facts.number() === 1) visitor.written(family);
        reader.all(facts, (kept) => visitor.outcome(channel, kept));
        reader.all(facts, (kept) => visitor.omitted(channel, kept));
      }
    });
}
