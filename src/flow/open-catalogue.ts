import type { Surroundings } from "../core/language/function.js";
import type { Io } from "../io/io.js";
import { openStore } from "../store/open-store.js";
import type { Store } from "../store/store.js";
import type { NamedFolder } from "../workspace/named-folder.js";
import { lookUps } from "../workspace/look-up-files.js";
import { openWorkspace, type Workspace } from "../workspace/workspace.js";
import type { ExitCode } from "../io/exit-code.js";

export interface OpenCatalogue {
  readonly workspace: Workspace;
  readonly store: Store;
  /** The day of the run with the user's tables and rates, read when they are first asked for. */
  surroundings(): Promise<Surroundings>;
}

/** Opens the workspace a command was called for, with its store. */
export const withCatalogue = async (
  folder: NamedFolder,
  io: Io,
  work: (open: OpenCatalogue) => Promise<ExitCode>,
): Promise<ExitCode> => {
  const workspace = await openWorkspace(folder, io.cwd);
  const store = await openStore({
    path: workspace.storePath,
    shownPath: ".lexicant/store.db",
    layers: workspace.layers,
  });
  try {
    let known: Promise<Surroundings> | undefined;
    return await work({
      workspace,
      store,
      surroundings: () => (known ??= workspaceSurroundings(workspace, io)),
    });
  } finally {
    await store.close();
  }
};

/** What expressions of a workspace may know of the world. */
const workspaceSurroundings = async ({ root }: Workspace, io: Io): Promise<Surroundings> => ({
  ...surroundingsOf(io),
  ...(await lookUps(root)),
});

/** The day of the run; a build can be given another, so that its bytes can be made again. */
export const surroundingsOf = (io: Io): Surroundings => ({
  today: { kind: "date", iso: io.environment["LEXICANT_TODAY"] ?? io.now().toISOString().slice(0, 10) },
});
