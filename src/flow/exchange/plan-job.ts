/** Which files of a build go to a channel, and under which names. */
import { basename, extname, join } from "node:path";
import { sentLayoutOf, type ChannelDefinition } from "../../core/channel/definition.js";
import { filledPattern } from "../../core/channel/exchange-definition.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { nearest } from "../../core/values/nearest.js";
import type { BuildNote } from "../../store/ledger.js";
import type { ChannelJobs, Job } from "../../store/jobs.js";
import type { ChannelLedger } from "../../store/ledger.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import { folderOf } from "../builds/build-all.js";
import { exchangeOf } from "./account.js";
import { foundFiles, type FoundFile } from "./job-files.js";

/** What a person wants to be sent. */
export interface SubmitWishes {
  /** Files of one build; none: all of the last. */
  readonly files: readonly string[];
  /** Only the last build of this purpose. */
  readonly purpose: string | undefined;
  /** Whether a person knows that the very same files went there before. */
  readonly isRepeated?: boolean;
}

/** A build that is to be sent, with its files under the names that the channel gets. */
export interface JobPlan {
  readonly build: BuildNote;
  readonly purpose: string;
  readonly whole: boolean;
  /** Whether the build has files that do not go: then only what stands in these is sent. */
  readonly isPart: boolean;
  readonly files: readonly (FoundFile & { readonly sentAs: string })[];
}

/** Where nothing else can end a listing, a file of listings is all that the channel then has. */
export const takesWhole = ({ purposes }: ChannelDefinition, { kind }: Pick<BuildNote, "kind">): boolean =>
  (kind === "full" || kind === "chosen") && !purposes.includes("withdraw");

/** The purpose whose word goes with a build's files. */
export const purposeOf = ({ kind }: Pick<BuildNote, "kind">): string => (kind === "chosen" ? "full" : kind);

/** The word of a purpose at the channel. */
export const actionOf = ({ purposeRules }: ChannelDefinition, purpose: string): string =>
  purposeRules.find((rule) => rule.purpose === purpose)?.action ?? "";

/** What fills the marks of a file's addresses. */
export const factsOf = (
  definition: ChannelDefinition,
  purpose: string,
  job: number,
): Readonly<Record<string, string>> => ({
  purpose,
  action: actionOf(definition, purpose),
  version: definition.version,
  number: String(job),
});

function isOf(file: string, layout: { readonly file: string }): boolean {
  const [stem, ending] = [layout.file.replace(/\.[^.]*$/, ""), extname(layout.file)];
  const fixed = stem.replace(/\{[a-z]+\}.*$/, "");
  return file.startsWith(fixed) && file.replace(/\.(?:gz|zip)$/, "").endsWith(ending);
}

/** The files of a build that go to the channel: those of the layout that it takes. */
function sendable(build: BuildNote, channel: WorkspaceChannel): readonly string[] {
  const { definition } = channel.setup;
  const own = sentLayoutOf(definition);
  return own === undefined ? build.files : build.files.filter((file) => isOf(file, own));
}

function chosenBuild(
  builds: readonly BuildNote[],
  { files, purpose }: SubmitWishes,
  channel: string,
): BuildNote {
  const names = files.map((file) => basename(file));
  const among = builds.filter((build) => purpose === undefined || purposeOf(build) === purpose);
  const found = among.find((build) => names.every((name) => build.files.includes(name)));
  if (found !== undefined) return found;
  const known = builds.flatMap((build) => build.files);
  const near = names.flatMap((name) => nearest(name, known));
  const reason =
    builds.length === 0 || (names.length === 0 && among.length === 0)
      ? `there is no build${purpose === undefined ? "" : ` for ${purpose}`} to be sent. Next: lexicant build ${channel}${purpose === undefined ? "" : ` --purpose ${purpose}`}`
      : `${names.join(", ")}: not the files of one of the last builds${near.length === 0 ? "" : `; nearest: ${near.join(", ")}`}`;
  throw new Refusal([diagnostic("unknown-option", { reason })]);
}

/** Which files go, and under which names. Nothing is changed. */
export async function planJob(
  channel: WorkspaceChannel,
  workspace: Workspace,
  ledger: ChannelLedger,
  jobs: ChannelJobs,
  wishes: SubmitWishes,
): Promise<JobPlan> {
  const { setup } = channel;
  const { definition } = setup;
  const { send } = exchangeOf(channel, "files are sent");
  const build = chosenBuild(await ledger.builds(), wishes, setup.channel);
  const purpose = purposeOf(build);
  const named = wishes.files.map((file) => basename(file));
  const all = sendable(build, channel);
  const wanted = all.filter((file) => named.length === 0 || named.includes(file));
  const isPart = wanted.length < all.length;
  if (wanted.length === 0)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `${definition.label} takes files of the layout "${sentLayoutOf(definition)?.name ?? ""}", and ${named.join(", ") || "the build"} holds none`,
      }),
    ]);
  const folder = folderOf(workspace.path("out"), setup.channel, build);
  const found = await foundFiles(folder, wanted, join("out", setup.channel));
  const facts = factsOf(definition, purpose, nextNumber(await jobs.list()));
  return {
    build,
    purpose,
    isPart,
    whole: takesWhole(definition, build) && !isPart,
    files: found.map((file) => ({
      ...file,
      sentAs: filledPattern(
        send.name,
        {
          ...facts,
          account: setup.channel,
          stem: file.name.slice(0, -extname(file.name).length),
          ending: extname(file.name),
        },
        (text) => text,
      ),
    })),
  };
}

/** Names carry the channel's own count of sendings, which no build and no other account shifts. */
const nextNumber = (jobs: readonly Job[]): number => jobs.length + 1;

/** The last job of which something still waits to be sent, or may have arrived. */
export const unfinished = (jobs: readonly Job[]): Job | undefined =>
  jobs.find(({ files }) => files.some(({ state }) => state === "waiting" || state === "sending"));
