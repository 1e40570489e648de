/**
 * Learning: papers are read, a definition is made of them in core, tried away from where it will stand, and staged with
 * the reviews of people kept.
 */
import { existsSync } from "node:fs";
import { mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { basename, dirname, join, relative, resolve } from "node:path";
import { addAll } from "../../core/many.js";
import type { ChannelDefinition } from "../../core/channel/definition.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Surroundings } from "../../core/language/function.js";
import { corrections, type GuessCorrection } from "../../core/learning/corrections.js";
import { definitionDraft, type DraftFacts } from "../../core/learning/definition-draft.js";
import { learnChannel } from "../../core/learning/learn-channel.js";
import type { LearnedChannel } from "../../core/learning/learned.js";
import { fileName } from "../../core/learning/layout-draft.js";
import type { Paper } from "../../core/learning/paper.js";
import { reviewRows, type ReviewRow } from "../../core/learning/review.js";
import { namesIn } from "../../formats/is-there.js";
import { smallFile } from "../../formats/small-file.js";
import { readPapers } from "../../formats/paper-files.js";
import { loadDefinition } from "../../workspace/definition-files.js";
import { definitionsIn } from "../../workspace/workspace.js";
import { fold } from "../../core/values/text.js";
import { currenciesOf, tongueOf } from "../../core/learning/tongue.js";
import { withOtherTree } from "./tree-alone.js";
import {
  correctionsIn,
  GUESSES,
  guessesText,
  learnedFiles,
  type LearnedFiles,
  PUBLISHED,
  readCorrections,
  VERSIONS,
} from "../../workspace/learned-files.js";
import type { Landing } from "../../workspace/landing/landing.js";
import { sortPapers } from "../../core/learning/sort-papers.js";
import { reviewAnswers } from "./review-file.js";

/** What is to be learned, and how. */
export interface LearnWish {
  readonly channel: string;
  /** Paths as a person gave them, and where they count from. */
  readonly files: readonly string[];
  readonly cwd: string;
  /** The version that they are; undefined: the one that is there, or the first. */
  readonly as: string | undefined;
  readonly sheet: string | undefined;
  readonly label: string | undefined;
  /** Undefined: as the papers show, else the shop's. */
  readonly languages: readonly string[] | undefined;
  readonly currencies: readonly string[] | undefined;
  readonly shop: { readonly language: string; readonly currency: string };
  readonly countries: readonly string[];
  /** Whether an existing definition may change. */
  readonly mayChange: boolean;
  readonly attributes: readonly string[];
  readonly terms: ReadonlyMap<string, ReadonlySet<string>>;
}

/** What was learned. */
export interface Learned {
  readonly channel: LearnedChannel;
  readonly definition: ChannelDefinition;
  readonly rows: readonly ReviewRow[];
  /** The definition's folder from the workspace's. */
  readonly folder: string;
  readonly told: readonly string[];
  readonly kept: readonly string[];
  readonly corrected: number;
  /** The version in use, where another one was learned beside it. */
  readonly inUse: string | undefined;
}

/** A file that is learned from: a person's own, or a copy of before. */
interface PublishedPaper {
  readonly path: string;
  readonly name: string;
  readonly isNew: boolean;
}

/** The folder of a definition, or of a version of it that is not in use yet. */
export function definitionFolder(root: string, channel: string, version?: string): string {
  return version === undefined
    ? join(root, "definitions", channel)
    : join(root, "definitions", channel, VERSIONS, version);
}

/**
 * Learns a channel from what it hands out and stages its definition.
 * @throws Refusal where nothing can be learned, where the definition is there and may not change, or where what was learned contradicts itself
 */
export async function learn(
  root: string,
  wish: LearnWish,
  surroundings: Surroundings,
  landing: Landing,
): Promise<Learned> {
  const current = definitionFolder(root, wish.channel);
  const read = readOnce();
  const folder = (await isCurrent(root, wish)) ? current : definitionFolder(root, wish.channel, wish.as);
  const { published, answers, gone } = await sortFiles(wish, folder, current, read);
  refuseExisting(folder, relative(root, folder), wish, published);
  const papers: Paper[] = [];
  const told: string[] = [];
  for (const { path, name } of published) {
    const { papers: own, told: more } = await read(path, name);
    addAll(papers, own);
    addAll(told, more);
  }
  const known = await readCorrections(folder);
  const all = joined(known, answers);
  const channel = learnChannel(papers, {
    sheet: wish.sheet,
    corrections: corrections(all),
    attributes: wish.attributes,
    terms: wish.terms,
  });
  if (channel.faults.length > 0)
    throw new Refusal(
      channel.faults.map((reason) => diagnostic("cannot-learn", { channel: wish.channel, reason })),
    );
  addAll(told, channel.told);
  const isTreeAlone = channel.fields.length === 0;
  const made = isTreeAlone
    ? await withTree(root, wish, channel, surroundings, told)
    : await madeOf(root, wish, folder, channel, surroundings, told);
  const rows = isTreeAlone ? [] : reviewRows(channel);
  const whole = new Map(made.files);
  if (!isTreeAlone) whole.set(GUESSES, guessesText(rows));
  for (const name of gone) whole.set(`${PUBLISHED}/${name}`, undefined);
  for (const { path, name, isNew } of published)
    if (isNew) whole.set(`${PUBLISHED}/${name}`, await smallFile(path, name));
  const definition = await tried(wish.channel, folder, whole, surroundings);
  for (const [name, content] of whole) await landing.edit(join(folder, name), () => content);
  return {
    channel,
    definition,
    rows,
    folder: relative(root, folder),
    told,
    kept: made.kept,
    corrected: answers.length,
    inUse: folder === current ? undefined : await versionOf(current),
  };
}

/** The files of a definition made of its fields. */
async function madeOf(
  root: string,
  wish: LearnWish,
  folder: string,
  channel: LearnedChannel,
  surroundings: Surroundings,
  told: string[],
): Promise<LearnedFiles> {
  const draft = definitionDraft(channel, await factsOf(root, wish, folder, channel));
  addAll(told, draft.told);
  const strange = await strangeness(root, wish, channel, surroundings);
  if (strange !== undefined && !wish.mayChange)
    throw new Refusal([
      diagnostic("cannot-learn", {
        channel: wish.channel,
        reason: `${strange}; --yes learns it all the same`,
      }),
    ]);
  if (strange !== undefined) told.push(strange);
  return learnedFiles(folder, draft);
}

/** Why the papers look like another channel's; undefined where they do not. */
async function strangeness(
  root: string,
  { channel }: LearnWish,
  { fields }: LearnedChannel,
  surroundings: Surroundings,
): Promise<string | undefined> {
  const known = (await definitionsIn(root)).find((one) => one.channel === channel);
  if (known === undefined) return undefined;
  const before = await loadDefinition(known, surroundings).catch(() => undefined);
  if (before === undefined || before.fields.length < 5) return undefined;
  const names = new Set(fields.flatMap(({ code, label }) => [code, fold(label)]));
  const shared = before.fields.filter(({ code, label }) => names.has(code) || names.has(fold(label))).length;
  if (shared >= before.fields.length * 0.25) return undefined;
  return `${shared === 0 ? "none" : `only ${shared}`} of the ${before.fields.length} fields of its definition ${shared === 1 ? "is" : "are"} among them: is it another channel's template?`;
}

/** A tree alone changes the tree of the definition that there is. */
async function withTree(
  root: string,
  wish: LearnWish,
  { categories }: LearnedChannel,
  surroundings: Surroundings,
  told: string[],
): Promise<LearnedFiles> {
  const known = (await definitionsIn(root)).find((one) => one.channel === wish.channel);
  if (known === undefined)
    throw new Refusal([
      diagnostic("cannot-learn", {
        channel: wish.channel,
        reason: "the files hold a tree of categories alone; name a template, a schema or a sample with it",
      }),
    ]);
  const before = await loadDefinition(known, surroundings);
  const made = await withOtherTree(known, before, categories, wish.as ?? before.version);
  told.push(
    `the tree alone is new: ${categories.length.toLocaleString("en")} categories, ${before.tree.all.length.toLocaleString("en")} before${made.gone > 0 ? `, of which ${made.gone.toLocaleString("en")} are gone` : ""}; all else is that of ${before.version}`,
  );
  return made;
}

/** Whether a version is the one in use, which is learned again in its place. */
async function isCurrent(root: string, { channel, as }: LearnWish): Promise<boolean> {
  if (as === undefined) return true;
  return (await versionOf(definitionFolder(root, channel))) === as;
}

/** The version that a folder's definition says. */
export async function versionOf(folder: string): Promise<string | undefined> {
  const path = join(folder, "definition.yaml");
  if (!existsSync(path)) return undefined;
  return /^version:\s*["']?([^"'\s]+)/m.exec((await smallFile(path, "definition.yaml")).toString())?.[1];
}

/** A correction of now takes the place of one of before. */
function joined(
  before: readonly GuessCorrection[],
  now: readonly GuessCorrection[],
): readonly GuessCorrection[] {
  const keyOf = ({ field, scope, fact }: GuessCorrection): string => `${field}\u0000${scope}\u0000${fact}`;
  return [...new Map([...before, ...now].map((one) => [keyOf(one), one])).values()];
}

type ReadOnce = typeof readPapers;

/** Reads each file once, however often it is looked at. */
function readOnce(): ReadOnce {
  const known = new Map<string, ReturnType<typeof readPapers>>();
  return (path, name) => {
    const found = known.get(path) ?? readPapers(path, name);
    known.set(path, found);
    return found;
  };
}

/** A person's files, with those of before that they say nothing about; a filled review is answers. */
async function sortFiles(
  wish: LearnWish,
  folder: string,
  current: string,
  read: ReadOnce,
): Promise<{
  readonly published: readonly PublishedPaper[];
  readonly answers: readonly GuessCorrection[];
  readonly gone: readonly string[];
}> {
  const answers: GuessCorrection[] = [];
  const own = new Map<string, PublishedPaper>();
  for (const file of wish.files) {
    const path = resolve(wish.cwd, file);
    const filled = await reviewAnswers(path, file);
    const name = fileName(basename(file));
    if (filled !== undefined) addAll(answers, correctionsIn(filled));
    else own.set(name, { path, name, isNew: true });
  }
  const fresh = [...own.values()];
  const before = existsSync(join(folder, PUBLISHED)) ? folder : current;
  const names = await namesIn(join(before, PUBLISHED), PUBLISHED);
  const old = names
    .filter((name) => !own.has(name))
    .map((name): PublishedPaper => ({ path: join(before, PUBLISHED, name), name, isNew: before !== folder }));
  if (fresh.length === 0) return { published: old, answers, gone: [] };
  if (old.length === 0) return { published: fresh, answers, gone: [] };
  // A new template takes the place of the old one, a new tree that of the old tree; what they do not cover stays.
  const covered = new Set((await Promise.all(fresh.map((one) => rolesOf(one, read)))).flat());
  const kept: PublishedPaper[] = [];
  for (const one of old) if (!(await rolesOf(one, read)).some((role) => covered.has(role))) kept.push(one);
  const stays = new Set(kept);
  return {
    published: [...fresh, ...kept],
    answers,
    gone: before === folder ? old.filter((one) => !stays.has(one)).map(({ name }) => name) : [],
  };
}

/** What a file is for, looked at by itself. */
async function rolesOf({ path, name }: PublishedPaper, read: ReadOnce): Promise<readonly string[]> {
  const { templates, schemas, guides, categories, reports, lives } = sortPapers(
    (await read(path, name)).papers,
  );
  const roles = [
    templates.length + schemas.length > 0 ? "fields" : "",
    guides.length > 0 ? "guide" : "",
    categories.length > 0 ? "categories" : "",
    reports.length > 0 ? "report" : "",
    lives.length > 0 ? "live" : "",
  ].filter(Boolean);
  return roles.length === 0 ? [`other ${name}`] : roles;
}

function refuseExisting(
  folder: string,
  shown: string,
  { channel, files, mayChange }: LearnWish,
  published: readonly PublishedPaper[],
): void {
  const isThere = existsSync(join(folder, "definition.yaml"));
  const hasNew = published.some(({ isNew }) => isNew);
  const reason =
    !isThere && files.length === 0
      ? "no file was named, and it was never learned before; name the files that the channel hands out"
      : published.length === 0
        ? "its definition was not learned from files; name those that the channel hands out"
        : undefined;
  if (reason !== undefined) throw new Refusal([diagnostic("cannot-learn", { channel, reason })]);
  if (isThere && hasNew && !mayChange)
    throw new Refusal([diagnostic("definition-exists", { channel, folder: shown })]);
}

async function factsOf(
  root: string,
  wish: LearnWish,
  folder: string,
  learned: LearnedChannel,
): Promise<DraftFacts> {
  const { channel, label, languages, currencies, countries } = wish;
  return {
    channel,
    label:
      label ??
      channel.replace(
        /(?:^|-)(.)/g,
        (_, letter: string, at: number) => `${at === 0 ? "" : " "}${letter.toUpperCase()}`,
      ),
    version:
      wish.as ?? (await versionOf(folder)) ?? (await versionOf(definitionFolder(root, channel))) ?? "1",
    languages: languages ?? [tongueOf(learned) ?? wish.shop.language],
    currencies: currencies ?? orElse(currenciesOf(learned), [wish.shop.currency]),
    countries,
  };
}

const orElse = <T>(list: readonly T[], other: readonly T[]): readonly T[] => (list.length > 0 ? list : other);

/** Loads the definition as it will be, away from where it will stand: what cannot be used is never written. */
async function tried(
  channel: string,
  folder: string,
  files: ReadonlyMap<string, Buffer | string | undefined>,
  surroundings: Surroundings,
): Promise<ChannelDefinition> {
  const place = await mkdtemp(join(tmpdir(), "lexicant-learn-"));
  try {
    const names = await filesOf(folder);
    for (const name of new Set([...names, ...files.keys()])) {
      const content = files.has(name) ? files.get(name) : await smallFile(join(folder, name), name);
      if (content === undefined) continue;
      await mkdir(dirname(join(place, name)), { recursive: true });
      await writeFile(join(place, name), content);
    }
    return await loadDefinition({ channel, path: place, shown: `definitions/${channel}` }, surroundings);
  } finally {
    await rm(place, { recursive: true, force: true });
  }
}

/** The files of a definition that loading it reads. */
async function filesOf(folder: string): Promise<readonly string[]> {
  const own = await namesIn(folder, basename(folder));
  const values = await namesIn(join(folder, "values"), "values");
  return [...own.filter((name) => /\.(?:csv|yaml)$/.test(name)), ...values.map((name) => `values/${name}`)];
}
