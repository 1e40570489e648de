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
  },
});
