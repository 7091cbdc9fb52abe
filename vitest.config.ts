import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{app,core,server,demo,scripts}/**/*.test.{ts,tsx}"],
    globalSetup: ["./server/testing/setup.ts"],
    testTimeout: 30_000,
    hookTimeout: 30_000,
    // No test leaves anything behind in a module, so that modules are loaded once for each worker.
    isolate: false,
    maxWorkers: 2,
  },
});
