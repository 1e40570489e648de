import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["test/**/*.test.ts"],
    globalSetup: "test/kit/global-setup.ts",
    setupFiles: "test/kit/clean-up.ts",
    // Files of one worker share what is loaded: most of their time would be loading. No test changes a module.
    isolate: false,
    testTimeout: 60_000,
    hookTimeout: 60_000,
    maxWorkers: 2,
    // Two workers keep both cores busy, and most code runs a few times: optimising it on threads of its own takes more from
    // them than it gives back. What runs really often is optimised all the same, only later.
    execArgv: ["--interrupt-budget=200000"],
  },
});
