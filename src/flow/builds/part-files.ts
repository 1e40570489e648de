/** Parts of a build in files of their own, each with a mark of the build that it is of. */
import { existsSync } from "node:fs";
import { mkdir, readdir } from "node:fs/promises";
import { join } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { writeFault } from "../../formats/file-fault.js";
import { createFramed, openFramed, Torn } from "../parts/framed-file.js";
import type { FamilyRange } from "../../store/store.js";
import type { BuiltParts } from "./build-parts.js";

/** Which part of how many. */
export interface PartNumber {
  readonly part: number;
  readonly of: number;
}

/** A stretch of the catalogue, with what came of it on each channel. */
interface BuiltStretch {
  readonly range: FamilyRange;
  readonly made: BuiltParts;
}

/** A part of a build on its way into its file: stretch by stretch, and at the end a mark of the build. */
export interface PartFile {
  add(stretch: BuiltStretch): Promise<void>;
  /** Lets the file appear under its name, whole. */
  finish(): Promise<string>;
}

const nameOf = ({ part, of }: PartNumber): string => `${part}-of-${of}.part`;
const named = /^\d+-of-(\d+)\.part$/;

/** Begins a part's file. */
export async function createPart(folder: string, number: PartNumber, mark: string): Promise<PartFile> {
  const path = join(folder, nameOf(number));
  const attempt = async <T>(work: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch (error) {
      throw writeFault(path, error);
    }
  };
  await attempt(() => mkdir(folder, { recursive: true }));
  const file = await attempt(() => createFramed(path));
  return {
    add: (stretch) => attempt(() => file.add(stretch)),
    finish: () => attempt(() => file.finish(mark).then(() => path)),
  };
}

const refused = (reason: string): Refusal => new Refusal([diagnostic("unknown-option", { reason })]);

const tornPart = (path: string): Refusal => refused(`--join: "${path}" is not whole: build that part again`);

/** The parts that lie in a folder, in their order. */
async function partsIn(folder: string): Promise<readonly PartNumber[]> {
  const names = existsSync(folder) ? (await readdir(folder)).filter((name) => named.test(name)) : [];
  const counts = new Set(names.map((name) => Number(named.exec(name)?.[1])));
  const [of] = counts;
  if (of === undefined) throw refused(`--join: there is no part of a build in "${folder}"`);
  if (counts.size > 1)
    throw refused(`--join: the parts in "${folder}" are of several builds: of ${[...counts].join(", of ")}`);
  const parts = Array.from({ length: of }, (_, at) => ({ part: at + 1, of }));
  for (const number of parts)
    if (!names.includes(nameOf(number)))
      throw refused(`--join: part ${number.part} of ${of} is not in "${folder}"`);
  return parts;
}

/**
 * All stretches of a build whose parts lie in a folder, in catalogue order.
 * @throws Refusal where a part is missing, torn, or of another build than this one
 */
export async function* joinedParts(folder: string, mark: string): AsyncGenerator<BuiltStretch> {
  for (const number of await partsIn(folder)) {
    const path = join(folder, nameOf(number));
    const file = await openFramed(path);
    if (file === undefined) throw tornPart(path);
    try {
      if (file.about !== mark)
        throw refused(
          `--join: "${path}" is of another build: of other channels, options or decisions, another catalogue or day; build that part again`,
        );
      for await (const stretch of file.values()) yield stretch as BuiltStretch;
    } catch (error) {
      throw error instanceof Torn ? tornPart(path) : error;
    } finally {
      await file.close();
    }
  }
}
