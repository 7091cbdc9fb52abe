import { defineConfig } from "vitest/config";
import { LongFirst } from "./long-first.ts";

export default defineConfig({
  test: {
    root: import.meta.dirname,
    include: ["*.e2e.ts"],
    globalSetup: ["./server.ts"],
    // Two files at a time on one application, as two people would use it: each test makes what it works on.
    maxWorkers: 2,
    sequence: { sequencer: LongFirst },
    testTimeout: 120_000,
    hookTimeout: 90_000,
  },
});
