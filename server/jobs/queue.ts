/** Runs jobs from the queue until it is stopped: one at a time in each lane. */
import { z } from "zod";
import { applyImport, undoImport } from "../import/apply.ts";
import { checkImport } from "../import/check.ts";
import type { Services } from "../services.ts";
import { setState } from "../store/imports.ts";
import { endJob, type Job, type Lane, postponeJob, recoverJobs, takeJob } from "../store/jobs.ts";
import { runLaunch } from "./sender.ts";

const POLL_MS = 500;
const RETRY_MS = 10_000;
const TRIES = 20;

/** Each kind of job: gives when to run it again, or null when it is done. */
const HANDLERS: Record<string, (services: Services, payload: unknown) => Promise<Date | null>> = {
  launch: (services, payload) =>
    runLaunch(services, z.object({ launch: z.string() }).parse(payload).launch),
  checkImport: (services, payload) => forImport(services, payload, checkImport),
  applyImport: (services, payload) => forImport(services, payload, applyImport),
  undoImport: (services, payload) => forImport(services, payload, undoImport),
};

/** A large file must not keep a send waiting: imports have a lane of their own. */
const IMPORTS = ["checkImport", "applyImport", "undoImport"];
const LANES: readonly Lane[] = [
  { kinds: IMPORTS, others: true },
  { kinds: IMPORTS, others: false },
];

/** Work on an import: what goes wrong is said there, and not tried again. */
async function forImport(
  services: Services,
  payload: unknown,
  work: (services: Services, id: string) => Promise<void>,
): Promise<null> {
  const { id } = z.object({ id: z.string() }).parse(payload);
  try {
    await work(services, id);
  } catch (error) {
    services.log.error({ err: error, import: id }, "an import failed");
    await setState(
      services.database.sql,
      id,
      "failed",
      `It went wrong: ${(error as Error).message}`,
    );
  }
  return null;
}

export interface Queue {
  wake(): void;
  stop(): Promise<void>;
}

export async function startQueue(services: Omit<Services, "wake">): Promise<Queue> {
  const { database, clock, log } = services;
  let stopped = false;
  const sleepers = new Set<() => void>();
  const wakeUp = () => {
    for (const wake of sleepers) wake();
  };
  const queue = { wake: wakeUp };
  const all: Services = { ...services, wake: queue.wake };
  await recoverJobs(database.sql);

  async function run(job: Job): Promise<void> {
    try {
      const handler = HANDLERS[job.kind];
      if (!handler) throw new Error(`No such job: ${job.kind}`);
      const again = await handler(all, job.payload);
      if (again) await postponeJob(database.sql, job.id, again);
      else await endJob(database.sql, job.id, null);
    } catch (error) {
      log.error({ err: error, job: job.id, kind: job.kind }, "a job failed");
      const { message } = error as Error;
      if (job.tries >= TRIES) await endJob(database.sql, job.id, message);
      else {
        const at = new Date(clock.now().getTime() + RETRY_MS);
        await postponeJob(database.sql, job.id, at, message);
      }
    }
  }

  async function work(lane: Lane): Promise<void> {
    while (!stopped) {
      const job = await takeJob(database.sql, clock.now(), lane).catch(() => null);
      if (job) await run(job);
      else {
        await new Promise<void>((ok) => {
          const wake = () => {
            clearTimeout(timer);
            sleepers.delete(wake);
            ok();
          };
          const timer = setTimeout(wake, POLL_MS);
          sleepers.add(wake);
        });
      }
    }
  }
  const loops = Promise.all(LANES.map(work));

  return {
    ...queue,
    async stop() {
      stopped = true;
      wakeUp();
      await loops;
    },
  };
}
