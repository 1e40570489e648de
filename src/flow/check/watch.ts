import type { NamedFolder } from "../../workspace/named-folder.js";
import { basename, dirname, relative, resolve, sep } from "node:path";
import { watch as watchFiles } from "chokidar";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { openWorkspace } from "../../workspace/workspace.js";
import type { ExitCode } from "../../io/exit-code.js";

/** Editors write in several steps: what comes within this time is one change. */
const PAUSE_MILLISECONDS = 120;

const watched = ["lexicant.yaml", "channels", "tables", "definitions", "sources", ".lexicant", "data"];

/** The store's own side files change while it is read. */
const isNoise = (path: string): boolean => /-shm$|~$|\.sw[a-z]$|\.staging-|\.tmp$/.test(basename(path));

/** What a change means: what is decided or stored is checked again, an incoming file waits for its import. */
const meaning = (file: string): "check" | "import" => (file.split(sep)[0] === "data" ? "import" : "check");

/** Where a person follows the checks. */
export interface WatchScreen {
  /** A check begins. */
  begin(): void;
  /** A decision file is faulty for the moment. */
  refused(refusal: Refusal): void;
  end(): void;
  /** A file came that only an import takes in. */
  arrived(file: string): void;
}

/**
 * Checks, and again after each change of a decision file, a table or the store, until the person ends it (Ctrl+C). A file
 * that is faulty for a moment is told, and the next change tried again.
 */
export const watchWorkspace = async (
  folder: NamedFolder,
  cwd: string,
  screen: WatchScreen,
  check: () => Promise<ExitCode>,
): Promise<ExitCode> => {
  const { root } = await openWorkspace(folder, cwd);
  let exit: ExitCode = 0;
  const run = async (): Promise<void> => {
    screen.begin();
    try {
      exit = await check();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      screen.refused(error);
      exit = error.exit;
    }
    screen.end();
  };
  await run();
  const watcher = watchFiles(
    watched.map((name) => resolve(root, name)),
    { ignoreInitial: true, ignored: isNoise },
  );
  await new Promise<void>((done, failed) => {
    let [timer, running, again]: [NodeJS.Timeout | undefined, boolean, boolean] = [undefined, false, false];
    const isAgain = (): boolean => again;
    const start = async (): Promise<void> => {
      if (running) {
        again = true;
        return;
      }
      running = true;
      do {
        again = false;
        await run();
      } while (isAgain());
      running = false;
    };
    watcher.on("all", (_, path) => {
      const file = relative(root, path);
      if (dirname(file).startsWith(".lexicant") && running) return;
      if (meaning(file) === "import") {
        screen.arrived(file);
        return;
      }
      clearTimeout(timer);
      timer = setTimeout(() => void start().catch(failed), PAUSE_MILLISECONDS);
    });
    watcher.on("error", failed);
    process.once("SIGINT", done);
    process.once("SIGTERM", done);
  }).finally(() => watcher.close());
  return exit;
};
