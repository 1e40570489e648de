/** Checks again whenever a decision changes, until the person ends it. */
import type { NamedFolder } from "../../workspace/named-folder.js";
import { existsSync } from "node:fs";
import { lstat, readdir } from "node:fs/promises";
import { basename, join, relative, sep } from "node:path";
import { watch as watchFiles } from "chokidar";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { MANIFEST, workspaceRoot } from "../../workspace/workspace.js";
import type { ExitCode } from "../../io/exit-code.js";

/** Editors write in several steps: what comes within this time is one change. */
const PAUSE_MILLISECONDS = 120;
/** A workspace that is missing for so long is gone, and not just being replaced. */
const GONE_MILLISECONDS = 1500;

const folders: ReadonlySet<string> = new Set(["channels", "tables", "definitions", "sources", "data"]);
const STORE = join(".lexicant", "store.db");

/** What editors and we ourselves leave for a moment. */
const isNoise = (name: string): boolean => /~$|\.sw[a-z]$|^\.landing-|\.unfinished$|\.tmp$/.test(name);

/** Whether a path of the workspace can matter to a check, or lies above what can. */
function isWatched(file: string): boolean {
  const [first = ""] = file.split(sep);
  if (first === "" || first === MANIFEST || first === ".lexicant")
    return first !== ".lexicant" || file === first || file === STORE;
  return folders.has(first) && !isNoise(basename(file));
}

/** What a change means: what is decided or stored is checked again, an incoming file waits for its import. */
const isIncoming = (file: string): boolean => file.split(sep)[0] === "data";

/** All that a check reads, as far as the disk tells: two that are alike need no second check. */
async function stateOf(root: string): Promise<string> {
  const lines: string[] = [];
  const look = async (file: string): Promise<void> => {
    const path = join(root, file);
    const found = await lstat(path).catch(() => undefined);
    if (found === undefined) return;
    if (!found.isDirectory()) {
      lines.push(`${file} ${found.mtimeMs} ${found.size} ${found.ino}`);
      return;
    }
    for (const name of (await readdir(path).catch(() => [])).sort())
      if (!isNoise(name)) await look(join(file, name));
  };
  for (const file of [MANIFEST, STORE, ...folders]) if (!isIncoming(file)) await look(file);
  return lines.join("\n");
}

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
 * @throws Refusal when the workspace goes meanwhile
 */
export async function watchWorkspace(
  folder: NamedFolder,
  cwd: string,
  screen: WatchScreen,
  ended: () => Promise<void>,
  check: () => Promise<ExitCode>,
): Promise<ExitCode> {
  const root = workspaceRoot(folder, cwd);
  let exit: ExitCode = 0;
  let checked = "";
  const run = async (): Promise<void> => {
    checked = await stateOf(root);
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
  const watcher = watchFiles(root, {
    ignoreInitial: true,
    ignored: (path) => !isWatched(relative(root, path)),
  });
  let [timer, gone]: [NodeJS.Timeout | undefined, NodeJS.Timeout | undefined] = [undefined, undefined];
  await new Promise<void>((done, failed) => {
    let [running, again] = [false, false];
    const isAgain = (): boolean => again;
    const start = async (): Promise<void> => {
      again = running;
      if (running) return;
      running = true;
      do {
        again = false;
        // Our own reading touches files too: a check is due only where something says something else.
        if (existsSync(join(root, MANIFEST)) && (await stateOf(root)) !== checked) await run();
      } while (isAgain());
      running = false;
    };
    watcher.on("all", (event, path) => {
      const file = relative(root, path);
      if (isIncoming(file)) {
        if (event === "add" || event === "change") screen.arrived(file);
        return;
      }
      clearTimeout(timer);
      timer = setTimeout(() => void start().catch(failed), PAUSE_MILLISECONDS);
    });
    watcher.on("error", failed);
    let missing = false;
    gone = setInterval(() => {
      const isMissing = !existsSync(join(root, MANIFEST));
      if (isMissing && missing)
        failed(new Refusal([diagnostic("workspace-gone", { folder: relative(cwd, root) || "." })], 3));
      missing = isMissing;
    }, GONE_MILLISECONDS);
    void ended().then(done);
  }).finally(() => {
    clearTimeout(timer);
    clearInterval(gone);
    return watcher.close();
  });
  return exit;
}
