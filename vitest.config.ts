import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{app,core,server,demo,scripts}/**/*.test.{ts,tsx}"],
    testTimeout: 30_000,
  },
});
