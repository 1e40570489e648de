import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

export const projectRoot = fileURLToPath(new URL("../..", import.meta.url));
export const mainFile = join(projectRoot, "dist", "main.js");

export interface Ran {
  readonly exit: number | null;
  readonly out: string;
  readonly err: string;
  /** What was handed to a pager; of commands that run in this thread. */
  readonly pages?: readonly string[];
}

/** The environment in which tests run the program. */
export const environment = (extra: Readonly<Record<string, string>> = {}) => ({
  ...process.env,
  NO_COLOR: "1",
  COLUMNS: "110",
  LEXICANT_TODAY: "2026-11-25",
  ...extra,
});

/** A made-up terminal: what is shown page by page comes back apart. */
export interface MadeUpTerminal {
  readonly columns: number;
  readonly colors?: boolean;
  readonly errorColors?: boolean;
}

export interface RunOptions {
  readonly terminal?: MadeUpTerminal;
  readonly input?: string | Buffer;
  readonly env?: Readonly<Record<string, string>>;
  /** A shell script that runs the program as "$0" "$@". */
  readonly shell?: string;
}

/** Drives the built program as a user would, in a process of its own. */
export const lexicantProcess = (
  cwd: string,
  args: readonly string[],
  { input, env = {}, shell }: RunOptions = {},
): Ran => {
  const line = [mainFile, ...args];
  const [program, all] =
    shell === undefined ? [process.execPath, line] : ["bash", ["-c", shell, process.execPath, ...line]];
  const { status, stdout, stderr } = spawnSync(program, all, {
    cwd,
    env: environment(env),
    encoding: "utf8",
    maxBuffer: 1 << 28,
    ...(input === undefined ? {} : { input }),
  });
  return { exit: status, out: stdout, err: stderr };
};
