/**
 * `patch_vs_full`: changing one block of a 60-block email on both sheets, to layout done, over putting
 * the whole HTML into both frames (at most 0.15), in Chromium.
 */
import { mkdtemp, readFile, rm } from "node:fs/promises";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build } from "vite";
import { projectRoot } from "#server/root.ts";
import { openBrowser } from "../e2e/browser.ts";
import type { Figure } from "./run.ts";

export async function patchGroup(figure: Figure): Promise<void> {
  const root = projectRoot();
  const outDir = await mkdtemp(join(tmpdir(), "septima-bench-"));
  await build({
    configFile: false,
    root,
    logLevel: "error",
    define: { "process.env.NODE_ENV": '"production"' },
    build: {
      outDir,
      target: "es2022",
      lib: { entry: join(root, "bench/patch-page.ts"), formats: ["es"], fileName: "page" },
    },
  });
  const script = await readFile(join(outDir, "page.js"));
  const server = createServer((request, response) => {
    if (request.url === "/page.js") {
      response.setHeader("content-type", "text/javascript");
      return void response.end(script);
    }
    response.setHeader("content-type", "text/html");
    const sheet = "<!doctype html><html><head><title>Sheet</title></head><body></body></html>";
    const page = `<!doctype html><iframe src="/sheet" width="600" height="4000"></iframe><iframe src="/sheet" width="375" height="4000"></iframe><script type="module" src="/page.js"></script>`;
    response.end(request.url === "/sheet" ? sheet : page);
  });
  await new Promise<void>((ok) => server.listen(0, "127.0.0.1", ok));
  const { port } = server.address() as AddressInfo;
  const browser = await openBrowser();
  try {
    await browser.get(`http://127.0.0.1:${port}/`);
    await browser.manage().setTimeouts({ script: 60_000 });
    const result = await browser.executeAsyncScript<{ ratio: number; replaced: number[] }>(
      "const done = arguments[0]; const wait = () => window.measure ? done(window.measure()) : setTimeout(wait, 50); wait();",
    );
    if (result.replaced.some((count) => count !== 1)) {
      throw new Error(`Not one element was replaced in each frame: ${result.replaced.join(", ")}`);
    }
    figure("patch_vs_full", result.ratio);
  } finally {
    await browser.quit();
    server.close();
    await rm(outDir, { recursive: true, force: true });
  }
}
