import { existsSync, readdirSync, rmSync } from "node:fs";
import { join } from "node:path";

/** Whether a process of this machine runs; what it left is its own until it ends. */
function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // Another user's process may not be asked, and runs.
    return error instanceof Error && "code" in error && error.code === "EPERM";
  }
}

/** Clears what killed processes left in a folder. */
export function clearLeftovers(
  folder: string,
  /** The process that gave a name, where one did. */
  ownerOf: (name: string) => string | undefined,
): void {
  if (!existsSync(folder)) return;
  for (const name of readdirSync(folder)) {
    const pid = ownerOf(name);
    if (pid !== undefined && !isRunning(Number(pid)))
      rmSync(join(folder, name), { recursive: true, force: true });
  }
}
