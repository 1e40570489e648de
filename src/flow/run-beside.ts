/** Runs a command of ours in a process of its own. */
import { spawn } from "node:child_process";
import { resolve } from "node:path";
import { fileURLToPath } from "node:url";
import type { Io } from "../io/io.js";
import type { Workspace } from "../workspace/workspace.js";

const program = fileURLToPath(new URL("../main.js", import.meta.url));

/** How a command ended that ran in a process of its own. */
export interface RanBeside {
  readonly exit: number;
  /** The objects of its answer that were asked for. */
  readonly lines: readonly Readonly<Record<string, unknown>>[];
  /** What it said besides, in one line. */
  readonly said: string;
}

const MOST_SAID = 2000;
const MOST_ERRORS = 3;

/** Takes an answer line by line, and keeps the objects of one type: of a million others none is held. */
function objectsOf(type: string) {
  const [mark, objects]: [string, Readonly<Record<string, unknown>>[]] = [`{"type":"${type}"`, []];
  const errors: string[] = [];
  let rest = "";
  const take = (line: string): void => {
    // An answer for programs tells errors as lines of its own.
    if (errors.length < MOST_ERRORS && line.startsWith('{"type":"finding","severity":"error"'))
      errors.push((JSON.parse(line) as { readonly message: string }).message);
    if (line.startsWith(mark)) objects.push(JSON.parse(line) as Readonly<Record<string, unknown>>);
  };
  return {
    objects,
    errors,
    add(text: string) {
      const lines = (rest + text).split("\n");
      rest = lines.pop() ?? "";
      lines.forEach(take);
    },
    end: () => take(rest),
  };
}

/** Runs a command of ours in a process of its own, so that its memory goes with it and nobody waits for its work. */
export function runBeside(
  { root }: Pick<Workspace, "root">,
  args: readonly string[],
  /** The type of the objects that are wanted. */
  type: string,
  { environment }: Io,
): Promise<RanBeside> {
  return new Promise((done) => {
    const found = objectsOf(type);
    const child = spawn(process.execPath, [program, "-C", root, ...args, "--json"], {
      cwd: root,
      env: { ...environment, NO_COLOR: "1" },
      stdio: ["ignore", "pipe", "pipe"],
    });
    let err = "";
    child.stdout.setEncoding("utf8");
    child.stdout.on("data", (chunk: string) => found.add(chunk));
    child.stderr.on("data", (chunk: Buffer) => (err = (err + chunk.toString()).slice(-MOST_SAID)));
    child.on("error", (error) => done({ exit: 3, lines: [], said: error.message }));
    child.on("close", (exit) => {
      found.end();
      done({
        exit: exit ?? 3,
        lines: found.objects,
        said: [...found.errors, err].join(" ").replace(/\s+/g, " ").trim(),
      });
    });
  });
}

/** What came of a build that ran beside. */
export type Rebuilt =
  | {
      readonly kind: "built";
      readonly ready: number;
      readonly held: number;
      readonly listings: number;
      readonly folder: string;
      readonly files: readonly string[];
    }
  | { readonly kind: "failed"; readonly exit: number; readonly reason: string };

/** Builds a channel's files in a process of its own. */
export async function rebuild(
  workspace: Pick<Workspace, "root">,
  channel: string,
  options: readonly string[],
  io: Io,
): Promise<Rebuilt> {
  const { exit, lines, said } = await runBeside(workspace, ["build", channel, ...options], "build", io);
  const [built] = lines;
  if ((exit !== 0 && exit !== 1) || built === undefined)
    return { kind: "failed", exit, reason: said || `the build ended with ${exit}` };
  const { ready, held, written, folder, files } = built as {
    readonly ready: number;
    readonly held: number;
    readonly written: number;
    readonly folder: string;
    readonly files: readonly { readonly name: string }[];
  };
  return {
    kind: "built",
    ready,
    held,
    listings: written,
    folder: resolve(workspace.root, folder),
    files: files.map(({ name }) => name),
  };
}
