/**
 * Work on all products, kept for the next time. It is nothing but a cache: marks of program, decisions, day and
 * catalogue say whether it holds; where in doubt, all is looked at anew.
 */
import { createHash } from "node:crypto";
import { mkdir, readdir, rm, stat } from "node:fs/promises";
import { dirname, join } from "node:path";
import { addAll } from "../../core/many.js";
import { asSku } from "../../core/ids.js";
import { idsAreSkus } from "../../core/listing/check/repeated-ids.js";
import { idRegister } from "../../core/listing/check/listed-ids.js";
import {
  familyPlaces,
  FactsWriter,
  unchained,
  wordChain,
  type ChainedFacts,
  type FamilyFacts,
  type FamilyPlace,
} from "../../core/catalogue/plain-facts.js";
import type { FamilyRange } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { builtFrom } from "../../workspace/version.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import {
  createFramed,
  openFramed,
  orNothing,
  type FramedFile,
  type FramedWriter,
} from "../parts/framed-file.js";
import { workMark } from "../parts/work-mark.js";
import { namesOf } from "../run-channels.js";
import { changedSince, sharingIn, type Ties } from "./changed-families.js";
import { readIds, type Bundles, type LoggedPart } from "./family-log.js";

/** Families that changed are looked at so many at a time. */
const AT_ONCE = 500;

/** So much is kept: each of other channels, or of other wishes. */
const MOST_KEPT = 6;

/** What is to be known of all that was found, to find it again. */
interface AboutWork<M> extends Ties {
  /** Of all that it depends on beside the catalogue. */
  readonly mark: string;
  /** What the work itself has to say of all. */
  readonly more: M;
  /** Whether listings have ids other than their SKUs, and whether two have the same. */
  readonly hasIds: boolean;
  readonly hasMet: boolean;
}

interface Stretch {
  readonly range: FamilyRange;
  readonly facts: FamilyFacts;
}

interface KeptStretch {
  readonly range: FamilyRange;
  readonly facts: ChainedFacts;
}

/** What was found before, with what changed since looked at anew. */
export interface LookedAgain<M> {
  /** All of the catalogue, in its order. */
  stretches(): AsyncGenerator<Stretch>;
  readonly more: M;
  /** Whether there are the same products. */
  readonly hasSameProducts: boolean;
}

/** Looks at families, stretch by stretch. */
export type Look = (
  stretches: readonly FamilyRange[],
  join: (part: LoggedPart, range: FamilyRange) => void,
) => Promise<void>;

/** What work on all products came to, kept for the next time. It is nothing but a cache: where it cannot be written or read, there is none. */
export interface KeptWork<M> {
  /** What is found now, of what changed by looking at it; undefined where all has to be looked at. */
  again(look: Look): Promise<LookedAgain<M> | undefined>;
  add(stretch: Stretch & Partial<LoggedPart>): Promise<void>;
  /** What was added takes the place of what was kept before. */
  finish(more: M, always?: readonly number[]): Promise<void>;
  close(): Promise<void>;
}

/** Opens what is kept for these channels. */
export async function keptWork<M>(
  { workspace, store, surroundings }: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  /** Which work it is, and all that it depends on. */
  work: object,
): Promise<KeptWork<M>> {
  const folder = join(dirname(workspace.storePath), "kept");
  const which = JSON.stringify([work, namesOf(channels)]);
  const path = join(folder, createHash("sha256").update(which).digest("hex").slice(0, 16));
  const attributes = (await store.attributes()).names.length;
  const today = (await surroundings()).today.iso;
  const mark = workMark(workspace, channels, { work, program: builtFrom(), today, attributes });
  const state = await store.state();
  const sharing = await sharingIn(store);
  let before: FramedFile | undefined;
  let writer: FramedWriter | undefined;
  const bundles: Bundles[] = [];
  const chained = wordChain();
  let [hasIds, hasMet, isBegun, isSame] = [false, false, false, false];
  /** Where it cannot be written any further, it is not kept. */
  const writing = async (work: (file: FramedWriter) => Promise<void>): Promise<void> => {
    const file = writer;
    if (file === undefined) return;
    try {
      await work(file);
    } catch {
      writer = undefined;
      await orNothing(file.close());
    }
  };
  return {
    async again(look) {
      before = await orNothing(openFramed(path));
      const about = before?.about as AboutWork<M> | undefined;
      if (before === undefined || about?.mark !== mark || about.hasMet) return undefined;
      const changed = await changedSince(store, about, sharing);
      if (changed === undefined) return undefined;
      const news = new News();
      const settled = { file: before, changed: new Set(changed), news };
      const looking = news.from(look(stretchesOf(changed), (part, range) => news.take(part, range)));
      // Told to whoever waits for what comes of it.
      looking.catch(() => undefined);
      // Whether ids meet shows only when all is known; where they cannot, the first stretches need not wait for the last.
      if (!channels.every(({ setup }) => idsAreSkus(setup))) {
        await looking;
        hasIds = about.hasIds || news.hasIds;
        if (news.hasMet || (hasIds && (await meets(settled, channels.length)))) return undefined;
      }
      isSame = changed.length === 0;
      async function* stretches(): AsyncGenerator<Stretch> {
        try {
          yield* renewed(settled);
        } finally {
          // Whoever gives up leaves nobody at work behind.
          await looking.catch(() => undefined);
        }
        const own = about?.bundles.filter(({ family }) => !settled.changed.has(family)) ?? [];
        addAll(bundles, [...own, ...news.bundles]);
      }
      return { stretches, more: about.more, hasSameProducts: about.state.newest === state.newest };
    },
    async add({ range, facts, ...made }) {
      if (isSame) return;
      if (!isBegun) {
        isBegun = true;
        await orNothing(mkdir(folder, { recursive: true }));
        writer = await orNothing(createFramed(path));
      }
      addAll(bundles, made.bundles ?? []);
      hasIds ||= made.ids?.some((ids) => ids.length > 0) === true;
      hasMet ||= made.hasMet === true;
      const stretch: KeptStretch = { range, facts: chained(facts) };
      await writing((file) => file.add(stretch));
    },
    async finish(more, always = []) {
      const about: AboutWork<M> = { mark, state, bundles, sharing, always, more, hasIds, hasMet };
      await writing((file) => file.finish(about));
      writer = undefined;
      await orNothing(tidy(folder));
    },
    async close() {
      await before?.close();
      await writing((file) => file.close());
    },
  };
}

function stretchesOf(families: readonly number[]): readonly FamilyRange[] {
  const stretches: FamilyRange[] = [];
  for (let at = 0; at < families.length; at += AT_ONCE) {
    const only = families.slice(at, at + AT_ONCE);
    stretches.push({ from: only[0] ?? 0, until: (only.at(-1) ?? 0) + 1, only });
  }
  return stretches;
}

/** What is found of families that changed, as it comes. */
class News {
  readonly places: FamilyPlace[] = [];
  readonly bundles: Bundles[] = [];
  hasIds = false;
  hasMet = false;
  /** What is new of families before this one is here. */
  private until = 0;
  private fault: { readonly error: unknown } | undefined;
  private isWhole = false;
  private waiting: (() => void)[] = [];

  take({ facts, ids, bundles, hasMet }: LoggedPart, { until }: FamilyRange): void {
    this.until = until;
    addAll(this.places, familyPlaces(facts));
    addAll(this.bundles, bundles);
    this.hasIds ||= ids.some((own) => own.length > 0);
    this.hasMet ||= hasMet;
    this.wake();
  }

  /** Follows those who look. */
  async from(looking: Promise<void>): Promise<void> {
    try {
      await looking;
      this.isWhole = true;
    } catch (error) {
      this.fault = { error };
      throw error;
    } finally {
      this.wake();
    }
  }

  /** Waits until all that is new of families before this number is there. */
  async reach(family: number): Promise<void> {
    while (!this.isWhole && this.fault === undefined && this.until < family)
      await new Promise<void>((resolve) => this.waiting.push(resolve));
    if (this.fault !== undefined) throw this.fault.error;
  }

  private wake(): void {
    for (const wake of this.waiting.splice(0)) wake();
  }
}

interface SettledWork {
  readonly file: FramedFile;
  readonly changed: ReadonlySet<number>;
  readonly news: News;
}

/** Stretch by stretch what was kept of families that did not change, and what was found now of those that did. */
async function* renewed({ file, changed, news }: SettledWork): AsyncGenerator<Stretch> {
  const { places } = news;
  let next = 0;
  let end = 0;
  const merged = (range: FamilyRange, kept: readonly FamilyPlace[]): Stretch => {
    const facts = new FactsWriter();
    const takeNews = (until: number): void => {
      for (let own = places[next]; own !== undefined && own.number < until; own = places[++next])
        facts.family(own);
    };
    for (const place of kept) {
      if (changed.has(place.number)) continue;
      takeNews(place.number);
      facts.family(place);
    }
    takeNews(range.until);
    return { range, facts: facts.take() };
  };
  const whole = unchained();
  for await (const value of file.values()) {
    const { range, facts } = value as KeptStretch;
    const stretch: Stretch = { range, facts: whole(facts) };
    const kept = familyPlaces(stretch.facts);
    end = stretch.range.until;
    await news.reach(end);
    const isOld =
      (places[next]?.number ?? Infinity) >= end && !kept.some(({ number }) => changed.has(number));
    yield isOld ? stretch : merged(stretch.range, kept);
  }
  await news.reach(Infinity);
  const last = places.at(-1)?.number ?? -1;
  if (last >= end) yield merged({ from: end, until: last + 1 }, []);
}

/** Whether an id is of two families now. */
async function meets(settled: SettledWork, channels: number): Promise<boolean> {
  const registers = Array.from({ length: channels }, () => idRegister());
  let hasMet = false;
  for await (const { facts } of renewed(settled))
    readIds(facts, channels, (channel, id) => {
      const register = registers[channel];
      hasMet ||= register?.get(id) !== undefined;
      register?.add([[id, asSku(id)]]);
    });
  return hasMet;
}

/** Of what is kept, only the newest stays. */
async function tidy(folder: string): Promise<void> {
  const entries = (await readdir(folder, { withFileTypes: true })).filter((entry) => entry.isFile());
  const files = await Promise.all(
    entries.map(async ({ name }) => ({ name, at: (await stat(join(folder, name))).mtimeMs })),
  );
  const old = files.sort((a, b) => b.at - a.at).slice(MOST_KEPT);
  for (const { name } of old) await rm(join(folder, name), { force: true });
}
