/**
 * `patch_vs_full`: changing one block of a 60-block email on both sheets, to layout done, over putting
 * the whole HTML into both frames (at most 0.15), in Chromium.
 */
import { openBrowser } from "../e2e/browser.ts";
import { servePage } from "./page-server.ts";
import type { Figure } from "./run.ts";

export async function patchGroup(figure: Figure): Promise<void> {
  const page = `<!doctype html><iframe src="/sheet" width="600" height="4000"></iframe><iframe src="/sheet" width="375" height="4000"></iframe><script type="module" src="/page.js"></script>`;
  const sheet = "<!doctype html><html><head><title>Sheet</title></head><body></body></html>";
  const server = await servePage("patch-page.ts", { "/": page, "/sheet": sheet });
  const browser = await openBrowser();
  try {
    await browser.get(server.address);
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
    await server.stop();
  }
}
