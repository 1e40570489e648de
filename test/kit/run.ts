import { spawn, spawnSync } from "node:child_process";
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { mkdirSync } from "node:fs";
import { afterAll } from "vitest";

export const projectRoot = fileURLToPath(new URL("../..", import.meta.url));
export const mainFile = join(projectRoot, "dist", "main.js");

const folders: string[] = [];

/** A new folder that goes when the test file is done. */
export const temporaryFolder = (): string => {
  const folder = mkdtempSync(join(tmpdir(), "lexicant-test-"));
  folders.push(folder);
  return folder;
};

afterAll(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

export interface Ran {
  readonly exit: number | null;
  readonly out: string;
  readonly err: string;
}

const environment = (extra: Readonly<Record<string, string>>) => ({
  ...process.env,
  NO_COLOR: "1",
  COLUMNS: "110",
  LEXICANT_TODAY: "2026-11-25",
  ...extra,
});

/** Drives the built program as a user would, in a folder. */
export const lexicant = (
  cwd: string,
  args: readonly string[],
  {
    input,
    env = {},
    shell,
  }: {
    readonly input?: string | Buffer;
    readonly env?: Readonly<Record<string, string>>;
    /** A shell script that runs the program as "$0" "$@". */
    readonly shell?: string;
  } = {},
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

/** Drives the built program while this process goes on: for tests that answer it themselves. */
export const lexicantBeside = (cwd: string, args: readonly string[]): Promise<Ran> =>
  new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [mainFile, ...args], { cwd, env: environment({}) });
    let [out, err] = ["", ""];
    child.stdout.on("data", (chunk: Buffer) => (out += chunk.toString()));
    child.stderr.on("data", (chunk: Buffer) => (err += chunk.toString()));
    child.on("error", reject);
    child.on("close", (exit) => resolve({ exit, out, err }));
  });

/** Starts the built program without waiting for it. */
export const lexicantStarted = (cwd: string, args: readonly string[]) =>
  spawn(process.execPath, [mainFile, ...args], { cwd, env: environment({}), stdio: "ignore" });

/** The objects of a JSON Lines answer. */
export const jsonLines = (text: string): readonly Record<string, unknown>[] =>
  text
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line) as Record<string, unknown>);

export const write = (folder: string, name: string, text: string | Buffer): string => {
  const path = join(folder, name);
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(path, text);
  return path;
};

export const read = (folder: string, name: string): string => readFileSync(join(folder, name), "utf8");

/** A copy of a workspace, so that each test can spoil its own. */
export const copyOf = (workspace: string): string => {
  const copy = join(temporaryFolder(), "shop");
  cpSync(workspace, copy, { recursive: true });
  return copy;
};
