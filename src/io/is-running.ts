/** Whether a process of this machine runs; what it left is its own until it ends. */
export const isRunning = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // Another user's process may not be asked, and runs.
    return error instanceof Error && "code" in error && error.code === "EPERM";
  }
};
