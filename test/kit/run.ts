import { spawn } from "node:child_process";
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { mkdirSync } from "node:fs";
import { programThread, type ProgramThread } from "./program-thread.js";
import { environment, lexicantProcess, mainFile, projectRoot, type Ran, type RunOptions } from "./process.js";

export { lexicantProcess, mainFile, projectRoot, type Ran };

const folders: string[] = [];

/** A new folder that goes when the test file is done. */
export const temporaryFolder = (): string => {
  const folder = mkdtempSync(join(tmpdir(), "lexicant-test-"));
  folders.push(folder);
  return folder;
};

/** Takes away what a test file made; called when it is done. */
export const removeFolders = (): void => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
};

/**
 * Drives the built program's command line in a folder. Its modules are loaded once for a worker of the tests: most of a
 * command's time is its start. What belongs to a process (pipes, signals, a terminal) is tested with {@link lexicantProcess}.
 */
export const lexicant = (cwd: string, args: readonly string[], options: RunOptions = {}): Ran => {
  if (options.shell !== undefined) return lexicantProcess(cwd, args, options);
  usual ??= programThread({ seconds: 120 });
  return usual.run(cwd, args, options);
};

let usual: ProgramThread | undefined;

/** Drives the built program while this process goes on: for tests that answer it themselves. */
export const lexicantBeside = (
  cwd: string,
  args: readonly string[],
  env: Readonly<Record<string, string>> = {},
): Promise<Ran> =>
  new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [mainFile, ...args], { cwd, env: environment(env) });
    let [out, err] = ["", ""];
    child.stdout.on("data", (chunk: Buffer) => (out += chunk.toString()));
    child.stderr.on("data", (chunk: Buffer) => (err += chunk.toString()));
    child.on("error", reject);
    child.on("close", (exit) => resolve({ exit, out, err }));
  });

/** Starts the built program without waiting for it. */
export const lexicantStarted = (cwd: string, args: readonly string[]) =>
  spawn(process.execPath, [mainFile, ...args], { cwd, env: environment(), stdio: "ignore" });

/** The objects of a JSON Lines answer, as they are. */
export const rawLines = (text: string): readonly Record<string, unknown>[] =>
  text
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line) as Record<string, unknown>);

/** The objects of a JSON Lines answer; a product's values stand beside its SKU, for tests that look at them. */
export const jsonLines = (text: string): readonly Record<string, unknown>[] =>
  rawLines(text).map((line) => {
    if (line["type"] !== "product") return line;
    const { values, ...others } = line;
    return { ...others, ...(values as Record<string, unknown>) };
  });

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
