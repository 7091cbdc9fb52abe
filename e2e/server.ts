/** Starts the built application on a fresh data folder with demo data, once for all browser tests. */
import { type ChildProcess, spawn } from "node:child_process";
import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { TestProject } from "vitest/node";

declare module "vitest" {
  interface ProvidedContext {
    /** Address of the application, and the cookie of a person signed in. */
    base: string;
    cookie: string;
    /** A data folder with the demo's data that nobody uses, to be copied. */
    seeded: string;
  }
}

export interface Running {
  readonly base: string;
  readonly cookie: string;
  readonly process: ChildProcess;
  stop(): Promise<void>;
}

const freePort = (): Promise<number> =>
  new Promise((ok) => {
    const probe = createServer().listen(0, "127.0.0.1", () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => ok(port));
    });
  });

/**
 * Starts the application, with demo data or (`demo: false`) with none, and signs in. A data folder is given, or made anew
 * and thrown away at the end. With `clock` its time can be moved on (`clock.mjs`).
 */
export async function startApplication(
  given?: string,
  settings: Readonly<Record<string, string>> = {},
  { demo = true, clock = false }: { demo?: boolean; clock?: boolean } = {},
): Promise<Running> {
  const folder = given ?? mkdtempSync(join(tmpdir(), "septima-data-"));
  const port = await freePort();
  const before = clock ? ["--import", join(import.meta.dirname, "clock.mjs")] : [];
  const program = [...before, "build/server/main.js", ...(demo ? ["--demo"] : [])];
  const child = spawn(process.execPath, program, {
    cwd: join(import.meta.dirname, ".."),
    env: {
      ...process.env,
      NODE_ENV: "production",
      SEPTIMA_DATA: folder,
      SEPTIMA_PORT: String(port),
      SEPTIMA_GALLERY: "1",
      LOG_LEVEL: process.env.LOG_LEVEL ?? "error",
      ...settings,
    },
    stdio: ["ignore", "pipe", "inherit"],
  });
  // Nothing is left running when the tests end early.
  process.on("exit", () => child.kill("SIGKILL"));
  const link = await new Promise<string>((ok, fail) => {
    let output = "";
    child.stdout.on("data", (chunk) => {
      output += chunk;
      const found = /http:\S+\/sign-in\/\S+/.exec(output);
      if (found) ok(found[0]);
    });
    child.once("exit", (code) => fail(new Error(`The application ended with ${code}\n${output}`)));
  });
  const answer = await fetch(link, { redirect: "manual" });
  const cookie = /septima_session=([^;]+)/.exec(answer.headers.get("set-cookie") ?? "")![1]!;
  return {
    base: new URL(link).origin,
    cookie,
    process: child,
    async stop() {
      const ended = new Promise((ok) => child.once("exit", ok));
      child.kill("SIGTERM");
      await ended;
      if (!given) rmSync(folder, { recursive: true, force: true });
    },
  };
}

export default async function setup(project: TestProject) {
  // Seeded once; tests that need an application of their own take a copy.
  const seeded = mkdtempSync(join(tmpdir(), "septima-seeded-"));
  await (await startApplication(seeded)).stop();
  const folder = mkdtempSync(join(tmpdir(), "septima-data-"));
  cpSync(seeded, folder, { recursive: true });
  const running = await startApplication(folder);
  project.provide("base", running.base);
  project.provide("cookie", running.cookie);
  project.provide("seeded", seeded);
  return async () => {
    await running.stop();
    for (const one of [seeded, folder]) rmSync(one, { recursive: true, force: true });
  };
}
