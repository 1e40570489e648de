import fc from "fast-check";
import { afterAll } from "vitest";
import { removeFolders } from "./run.js";
import { stopSandboxes } from "./sandbox.js";

afterAll(async () => {
  await stopSandboxes();
  removeFolders();
});

// A property that fails says what went wrong, and not only with what.
fc.configureGlobal({ includeErrorInReport: true });
