/** Opens a workspace for a command: to read, or to write with the one landing. */
import type { Surroundings } from "../core/language/function.js";
import type { Io } from "../io/io.js";
import type { ExitCode } from "../io/exit-code.js";
import type { Store } from "../store/store.js";
import type { Landing } from "../workspace/landing/landing.js";
import type { NamedFolder } from "../workspace/named-folder.js";
import { openWorkspace, workspaceRoot, type Workspace } from "../workspace/workspace.js";
import { storeOf, surroundingsIn } from "./workspace-store.js";
import { asWriter, landingFor, settleIfFree, type Caller } from "./as-writer.js";

/** A workspace, opened to be read. */
export interface OpenCatalogue {
  readonly workspace: Workspace;
  readonly store: Store;
  /** The day of the run with the user's tables and rates, read when they are first asked for. */
  surroundings(): Promise<Surroundings>;
}

/** A catalogue that nobody else may write to meanwhile, with the one landing of all that the command changes. */
export interface WritableCatalogue extends OpenCatalogue {
  readonly landing: Landing;
}

/** A workspace whose files a command changes, as a part of its landing. */
export type WritableWorkspace = Pick<WritableCatalogue, "workspace" | "landing">;

/** Opens the workspace that a command was called for; what a killed command began there is ended before. */
export async function enterWorkspace(folder: NamedFolder, io: Io): Promise<Workspace> {
  const root = workspaceRoot(folder, io.cwd);
  await settleIfFree(root, io);
  return openWorkspace(root);
}

/** Opens the workspace a command was called for, with its store, to read. */
export async function withCatalogue<T extends ExitCode | object>(
  folder: NamedFolder,
  io: Io,
  work: (open: OpenCatalogue) => Promise<T>,
): Promise<T> {
  return opened(await enterWorkspace(folder, io), io, true, work);
}

/** Opens the workspace to write to it, with its store: one command at a time, and all that it changes as one. */
export async function withWritableCatalogue<T extends ExitCode | object>(
  { workspace: folder, ...caller }: Caller & { readonly workspace: NamedFolder },
  io: Io,
  work: (open: WritableCatalogue) => Promise<T>,
): Promise<T> {
  const root = workspaceRoot(folder, io.cwd);
  return asWriter(root, caller, io, async (own) =>
    // Read by its writer alone: whoever wrote before may have changed the manifest.
    opened(await openWorkspace(root), io, false, (open) => work({ ...open, landing: own })),
  );
}

/** Opens the workspace for what would write and is only tried: it lands nothing. */
const withCatalogueToTry: typeof withWritableCatalogue = ({ workspace: folder, ...caller }, io, work) =>
  withCatalogue(folder, io, (open) =>
    work({ ...open, landing: landingFor(open.workspace.root, caller, io) }),
  );

/** How a command opens the workspace that may be called for a trial: that changes nothing, and waits for nobody. */
export const withCatalogueToChange = (isTrial: boolean): typeof withWritableCatalogue =>
  isTrial ? withCatalogueToTry : withWritableCatalogue;

async function opened<T extends ExitCode | object>(
  workspace: Workspace,
  io: Io,
  onlyReads: boolean,
  work: (open: OpenCatalogue) => Promise<T>,
): Promise<T> {
  const store = await storeOf(workspace, { onlyReads });
  try {
    let known: Promise<Surroundings> | undefined;
    return await work({
      workspace,
      store,
      surroundings: () => (known ??= surroundingsIn(workspace, surroundingsOf(io, workspace))),
    });
  } finally {
    await store.close();
  }
}

/** The day of the run where the shop is: a sale ends at its midnight. A build can be given another day, so that its bytes can be made again. */
export const surroundingsOf = (io: Io, workspace: Workspace | undefined): Surroundings => ({
  today: {
    kind: "date",
    iso: io.environment["LEXICANT_TODAY"] ?? dayIn(workspace?.manifest.time_zone, io.now()),
  },
});

/** The day of a moment in a time zone; in the machine's own where none is named. */
function dayIn(timeZone: string | undefined, now: Date): string {
  const numeric = { year: "numeric", month: "2-digit", day: "2-digit", calendar: "gregory" } as const;
  const parts = new Intl.DateTimeFormat("en", {
    ...numeric,
    ...(timeZone === undefined ? {} : { timeZone }),
  }).formatToParts(now);
  const of = (wanted: string): string => parts.find(({ type }) => type === wanted)?.value ?? "";
  return `${of("year")}-${of("month")}-${of("day")}`;
}
