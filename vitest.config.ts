import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{app,core,server,demo,scripts}/**/*.test.{ts,tsx}"],
    globalSetup: ["./server/testing/setup.ts"],
    testTimeout: 30_000,
  },
});
