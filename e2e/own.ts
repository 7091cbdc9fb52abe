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

export interface OwnStudio {
  readonly studio: Studio;
  /** What signs that person in, for requests beside the browser. */
  readonly cookie: string;
  /** Somebody else at the same application. */
  another(): Promise<Studio>;
  /** Lets ten minutes go by at the application. */
  later(): void;
  /** Ends everything. */
  end(): Promise<void>;
}

/** A person at an application with the demo's data. */
export async function ownStudio(): Promise<OwnStudio> {
  const folder = seededCopy();
  const application = await startApplication(folder, {}, { clock: true });
  const studio = await Studio.open({}, application);
  const others: Studio[] = [];
  return {
    studio,
    cookie: application.cookie,
    async another() {
      const other = await Studio.open({}, application);
      others.push(other);
      return other;
    },
    later() {
      application.process.kill("SIGUSR2");
    },
    async end() {
      for (const one of [studio, ...others]) await one.close();
      await application.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
