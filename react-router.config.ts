import type { Config } from "@react-router/dev/config";

export default {
  ssr: true,
  // The server build has two entries (vite.config.ts), each under its own name.
  serverBuildFile: "[name].js",
  // All routes are known from the beginning: to pick those that a page leads to costs the server more than the 8 KB do.
  routeDiscovery: { mode: "initial" },
  future: { v8_middleware: true },
  // Forged requests are refused by server/http/security.ts, for every address; sign-up forms stand on other sites.
  allowedActionOrigins: ["**"],
} satisfies Config;
