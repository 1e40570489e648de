import { basename, dirname, relative, resolve, sep } from "node:path";
import { watch as watchFiles } from "chokidar";
import { Refusal } from "../../../core/diagnostics/refusal.js";
import { findingLines } from "../../../report/findings.js";
import type { Io } from "../../../report/io.js";
import { styleFor } from "../../../report/style.js";
import { openWorkspace } from "../../../workspace/workspace.js";
import type { ExitCode } from "../../command-file.js";

/** Editors write in several steps: what comes within this time is one change. */
const PAUSE_MILLISECONDS = 120;

const watched = ["lexicant.yaml", "channels", "tables", "definitions", "sources", ".lexicant", "data"];

/** The store's own side files change while it is read. */
const isNoise = (path: string): boolean => /-shm$|~$|\.sw[a-z]$|\.staging-|\.tmp$/.test(basename(path));

/** What a change means: what is decided or stored is checked again, an incoming file waits for its import. */
const meaning = (file: string): "check" | "import" => (file.split(sep)[0] === "data" ? "import" : "check");

/**
 * Checks, and again after each change of a decision file, a table or the store, until the person ends it (Ctrl+C). A file
 * that is faulty for a moment is told, and the next change tried again.
 */
export const watchWorkspace = async (
  folder: string,
  io: Io,
  check: () => Promise<ExitCode>,
): Promise<ExitCode> => {
  const { root } = await openWorkspace(resolve(io.cwd, folder));
  const style = styleFor(io);
  let exit: ExitCode = 0;
  const run = async (): Promise<void> => {
    const begun = io.now().getTime();
    if (io.isTerminal) io.out("\u001b[2J\u001b[H");
    try {
      exit = await check();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      for (const finding of error.findings) io.out(`${findingLines(finding, io).join("\n")}\n`);
      exit = error.exit;
    }
    const seconds = ((io.now().getTime() - begun) / 1000).toFixed(1);
    io.out(`${style.dim(`Checked in ${seconds} s. Waiting for changes; Ctrl+C ends.`)}\n`);
  };
  await run();
  const watcher = watchFiles(
    watched.map((name) => resolve(root, name)),
    { ignoreInitial: true, ignored: isNoise },
  );
  await new Promise<void>((done, failed) => {
    let [timer, running, again]: [NodeJS.Timeout | undefined, boolean, boolean] = [undefined, false, false];
    const start = async (): Promise<void> => {
      if (running) {
        again = true;
        return;
      }
      running = true;
      do {
        again = false;
        await run();
      } while (again);
      running = false;
    };
    watcher.on("all", (_, path) => {
      const file = relative(root, path);
      if (dirname(file).startsWith(".lexicant") && running) return;
      if (meaning(file) === "import") {
        io.out(`${file} changed: take it in with "lexicant import ${file}".\n`);
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
