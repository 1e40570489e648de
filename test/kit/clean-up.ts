import { afterAll } from "vitest";
import { removeFolders } from "./run.js";
import { stopSandboxes } from "./sandbox.js";

afterAll(async () => {
  await stopSandboxes();
  removeFolders();
});
