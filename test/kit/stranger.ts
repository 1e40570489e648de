import { spawnSync } from "node:child_process";
import { chmodSync } from "node:fs";
import { environment, mainFile, type Ran } from "./process.js";

const NOBODY = 65534;
const isRoot = process.getuid?.() === 0;

const spawned = (cwd: string, args: readonly string[], env: Readonly<Record<string, string>>): Ran => {
  const { status, stdout, stderr } = spawnSync(process.execPath, args, {
    cwd,
    env: environment(env),
    encoding: "utf8",
    ...(isRoot ? { uid: NOBODY, gid: NOBODY } : {}),
  });
  return { exit: status, out: stdout, err: stderr };
};

/** Whether the program can be run as somebody who is not root: it may lie where nobody else may look. */
export const hasStranger = (): boolean => !isRoot || spawned("/", [mainFile, "--version"], {}).exit === 0;

/** Runs the program as somebody to whom some paths are closed: root is let in everywhere. */
export const asStranger = (
  cwd: string,
  args: readonly string[],
  {
    closed,
    open,
    env = {},
  }: {
    /** Paths with the permissions that hold meanwhile. */
    readonly closed: Readonly<Record<string, number>>;
    /** Folders that have to be passed on the way. */
    readonly open: readonly string[];
    readonly env?: Readonly<Record<string, string>>;
  },
): Ran => {
  for (const folder of open) chmodSync(folder, 0o777);
  for (const [path, mode] of Object.entries(closed)) chmodSync(path, mode);
  try {
    return spawned(cwd, [mainFile, ...args], env);
  } finally {
    for (const path of Object.keys(closed)) chmodSync(path, 0o755);
  }
};
