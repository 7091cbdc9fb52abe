import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    root: import.meta.dirname,
    include: ["*.e2e.ts"],
    globalSetup: ["./server.ts"],
    // One browser at a time on one application, as one person would use it.
    fileParallelism: false,
    testTimeout: 90_000,
    hookTimeout: 90_000,
  },
});
