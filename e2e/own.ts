/** Applications of their own, for tests whose people or settings nobody else may change meanwhile. */
import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { inject } from "vitest";
import { startApplication } from "./server.ts";
import { Studio } from "./studio.ts";

/** A new data folder with the demo's data; whoever takes it removes it. */
export function seededCopy(): string {
  const folder = mkdtempSync(join(tmpdir(), "septima-own-"));
  cpSync(inject("seeded"), folder, { recursive: true });
  return folder;
}

/** A person at an application with the demo's data, and the way to end both. */
export async function ownStudio(): Promise<{ studio: Studio; end(): Promise<void> }> {
  const folder = seededCopy();
  const application = await startApplication(folder);
  const studio = await Studio.open({}, application);
  return {
    studio,
    async end() {
      await studio.close();
      await application.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
