/** Waits until a person or the system ends the program. */
export const untilEnded = (): Promise<void> =>
  new Promise((done) => {
    // A listener for signals alone keeps no process alive.
    const alive = setInterval(() => undefined, 1 << 30);
    const end = (): void => {
      clearInterval(alive);
      done();
    };
    process.once("SIGINT", end);
    process.once("SIGTERM", end);
  });
