import type { Surroundings } from "../../core/language/function.js";
import type { Io } from "../../report/io.js";
import { openStore } from "../../store/open-store.js";
import type { Store } from "../../store/store.js";
import { openWorkspace, type Workspace } from "../../workspace/workspace.js";
import { resolve } from "node:path";
import type { ExitCode } from "../command-file.js";

export interface OpenCatalogue {
  readonly workspace: Workspace;
  readonly store: Store;
}

/** Opens the workspace a command was called for, with its store. */
export const withCatalogue = async (
  folder: string,
  io: Io,
  work: (open: OpenCatalogue) => Promise<ExitCode>,
): Promise<ExitCode> => {
  const workspace = await openWorkspace(resolve(io.cwd, folder));
  const store = await openStore({
    path: workspace.storePath,
    shownPath: ".lexicant/store.db",
    layers: workspace.layers,
  });
  try {
    return await work({ workspace, store });
  } finally {
    await store.close();
  }
};

/** The day of the run; a build can be given another, so that its bytes can be made again. */
export const surroundingsOf = (io: Io): Surroundings => ({
  today: { kind: "date", iso: io.environment["LEXICANT_TODAY"] ?? io.now().toISOString().slice(0, 10) },
});
