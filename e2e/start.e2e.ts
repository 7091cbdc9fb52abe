/** Starting: bad settings, a data folder in use, data kept over a restart and a crash. */
import { spawn } from "node:child_process";
import { rmSync } from "node:fs";
import { join } from "node:path";
import { afterAll, expect, it } from "vitest";
import { seededCopy } from "./own.ts";
import { startApplication } from "./server.ts";

const folder = seededCopy();
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Starts with settings that end the start, and gives what it said. */
function failing(settings: Record<string, string>): Promise<{ code: number | null; said: string }> {
  const child = spawn(process.execPath, ["build/server/main.js"], {
    cwd: join(import.meta.dirname, ".."),
    env: { ...process.env, SEPTIMA_DATA: folder, ...settings },
    stdio: ["ignore", "ignore", "pipe"],
  });
  let said = "";
  child.stderr.on("data", (chunk) => {
    said += chunk;
  });
  return new Promise((ok) => child.once("exit", (code) => ok({ code, said })));
}

it("stops at a bad setting with one clear line", async () => {
  const { code, said } = await failing({ SEPTIMA_PORT: "somewhere" });
  expect(code).toBe(1);
  expect(said.trim().split("\n")).toEqual(["The setting SEPTIMA_PORT must be a number."]);
});

it("keeps its data over a restart and a crash, and lets no other process in", async () => {
  const first = await startApplication(folder);
  const names = async (base: string) => {
    const answer = await fetch(`${base}/campaigns`, {
      headers: { cookie: `septima_session=${first.cookie}` },
    });
    return [...(await answer.text()).matchAll(/href="\/campaigns\/(\w{12})/g)].map((m) => m[1]);
  };
  const before = await names(first.base);
  expect(before.length).toBeGreaterThan(2);

  const { code, said } = await failing({ SEPTIMA_PORT: "0" });
  expect(code).toBe(1);
  expect(said).toContain("is in use by another Septima");
  expect(said.trim().split("\n")).toHaveLength(1);

  // Killed, not stopped: nothing can be put in order.
  const ended = new Promise((ok) => first.process.once("exit", ok));
  first.process.kill("SIGKILL");
  await ended;
  const second = await startApplication(folder);
  // The same campaigns, and the session of before still counts.
  expect(await names(second.base)).toEqual(before);
  await second.stop();
  const third = await startApplication(folder);
  expect(await names(third.base)).toEqual(before);
  await third.stop();
}, 120_000);
