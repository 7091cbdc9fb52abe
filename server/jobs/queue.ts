/** Runs jobs from the queue until it is stopped: one at a time in each lane. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { spread } from "../campaigns/linking.ts";
import { tell } from "../campaigns/telling.ts";
import { applyImport, undoImport } from "../import/apply.ts";
import { checkImport } from "../import/check.ts";
import { askLinks } from "../links/asking.ts";
import { sendLetter } from "../reviews/letters.ts";
import type { Services } from "../services.ts";
import { readSource } from "../sources/reading.ts";
import { setProblem, setState } from "../store/imports.ts";
import {
  dueLanes,
  endJob,
  hurry,
  type Job,
  type Lane,
  postponeJob,
  recoverJobs,
  retryJob,
  takeJob,
} from "../store/jobs.ts";
import { unfinishedLaunches } from "../store/launches/pause.ts";
import { endLeases, renewLease, takeLease } from "../store/leases.ts";
import { cleanUp } from "./clean-up.ts";
import { forget } from "./forget.ts";
import { patiently } from "./patience.ts";
import { Stopped } from "./pieces.ts";
import { leaveRest, runLaunch } from "./sender.ts";

/** How often what has become due is looked for: nobody wakes the queue when a time has come. */
const LOOK_MS = 500;

/** Each kind of job: gives when to run it again, or null when it is done. */
const HANDLERS = new Map<string, (services: Services, payload: unknown) => Promise<Date | null>>([
  [
    "launch",
    (services, payload) =>
      runLaunch(services, z.object({ launch: z.string() }).parse(payload).launch),
  ],
  [
    "leaveOut",
    async (services, payload) => {
      const { launch } = z.object({ launch: z.string() }).parse(payload);
      await leaveRest(services, launch);
      return null;
    },
  ],
  ["cleanUp", (services) => cleanUp(services)],
  [
    "forget",
    async (services, payload) => {
      await forget(services, z.object({ email: z.string() }).parse(payload).email);
      return null;
    },
  ],
  ["checkImport", (services, payload) => forImport(services, payload, checkImport)],
  ["applyImport", (services, payload) => forImport(services, payload, applyImport)],
  [
    "readSource",
    (services, payload) =>
      readSource(services, z.object({ source: z.string() }).parse(payload).source),
  ],
  ["letter", sendLetter],
  ["tell", tell],
  [
    "askLinks",
    async (services, payload) => {
      await askLinks(services, z.object({ campaign: z.string() }).parse(payload).campaign);
      return null;
    },
  ],
  [
    "bringUpToDate",
    async (services, payload) => {
      const { saved, member } = z.object({ saved: z.string(), member: z.string() }).parse(payload);
      await spread(services, saved, member);
      return null;
    },
  ],
  ["undoImport", (services, payload) => forImport(services, payload, undoImport)],
]);

/** A large file must not keep a send waiting: what is long and can wait has a lane of its own. */
const IMPORTS = ["checkImport", "applyImport", "undoImport", "cleanUp", "forget", "leaveOut"];
/** What waits for servers elsewhere keeps nobody waiting. */
const ELSEWHERE = ["readSource", "letter", "tell", "askLinks"];
/** What people see change in the emails they have open. */
const SEEN = ["bringUpToDate"];
const LANES: readonly Lane[] = [
  { kinds: [...IMPORTS, ...ELSEWHERE, ...SEEN], others: true },
  { kinds: IMPORTS, others: false },
  { kinds: ELSEWHERE, others: false },
  { kinds: SEEN, others: false },
];

/** Work on an import: what goes wrong is said there. A file that cannot be read is not read again; what was begun goes on. */
async function forImport(
  services: Services,
  payload: unknown,
  work: (services: Services, id: string) => Promise<void>,
): Promise<null> {
  const { id } = z.object({ id: z.string() }).parse(payload);
  try {
    await work(services, id);
  } catch (error) {
    if (error instanceof Stopped) throw error;
    services.log.error({ err: error, import: id }, "an import failed");
    const problem = `It went wrong: ${(error as Error).message}`;
    const { sql } = services.database;
    if (work === checkImport) await setState(sql, id, "failed", problem);
    else {
      await setProblem(sql, id, `${problem} It is tried again.`);
      throw error;
    }
  }
  return null;
}

export interface Queue {
  wake(): void;
  /** Every lane has come to a place where its work can be taken up again; `stopping` tells them to. */
  readonly ended: Promise<void>;
}

/** Every launch that is not finished has a job, whatever became of the one it had. */
async function takeUpLaunches({ database }: Pick<Services, "database">): Promise<void> {
  for (const { id, at } of await unfinishedLaunches(database.sql)) {
    await database.tx((tx) => hurry(tx, "launch", { launch: id }, at));
  }
}

/** Starts working. The data folder is this process's own: nobody else can hold a lease. */
export async function startQueue(services: Omit<Services, "wake">): Promise<Queue> {
  const { database, clock, log, stopping } = services;
  const { sql } = database;
  /** Lanes with nothing to do, and how to wake each. */
  const sleepers = new Map<Lane, () => void>();
  const wake = () => {
    for (const one of sleepers.values()) one();
  };
  stopping.addEventListener("abort", wake);
  const all: Services = { ...services, wake };
  await endLeases(sql);
  await recoverJobs(sql, clock.now());
  await takeUpLaunches(services);
  await database.tx((tx) => hurry(tx, "cleanUp", {}, clock.now()));
  const lease = await takeLease(sql, clock.now());
  const alive = setInterval(
    () => void renewLease(sql, lease, clock.now()).catch(() => {}),
    LIMITS.leaseMs / 4,
  );

  /** Works on a job; gives how to put it away. */
  async function run({ id, kind, payload, failures }: Job): Promise<() => Promise<void>> {
    const handler = HANDLERS.get(kind);
    if (!handler) return () => endJob(sql, id, lease, `No such job: ${kind}`);
    try {
      const again = await database.beside(() => handler(all, payload));
      return () => (again ? postponeJob(sql, id, lease, again) : endJob(sql, id, lease, null));
    } catch (error) {
      if (error instanceof Stopped) return () => postponeJob(sql, id, lease, clock.now());
      log.error({ err: error, job: id, kind }, "a job failed");
      const wait = LIMITS.jobWaits[Math.min(failures, LIMITS.jobWaits.length - 1)]!;
      const at = new Date(clock.now().getTime() + wait);
      return () => retryJob(sql, id, lease, at, (error as Error).message);
    }
  }

  const rest = (lane: Lane) =>
    new Promise<void>((ok) => {
      if (stopping.aborted) return ok();
      sleepers.set(lane, () => {
        sleepers.delete(lane);
        ok();
      });
    });

  /** One look for all lanes, which costs a tenth of what each would cost that tried to take a job. */
  const look = async () => {
    const due = await dueLanes(sql, clock.now(), LANES).catch(() => []);
    for (const [i, lane] of LANES.entries()) if (due[i]) sleepers.get(lane)?.();
    if (!stopping.aborted) looking = setTimeout(look, LOOK_MS);
  };
  let looking = setTimeout(look, LOOK_MS);

  async function work(lane: Lane): Promise<void> {
    while (!stopping.aborted) {
      const job = await takeJob(sql, lease, clock.now(), lane).catch(() => null);
      if (!job) await rest(lane);
      else {
        const putAway = await run(job);
        await patiently(putAway, stopping).catch((error) =>
          // It is taken up again at the next start.
          log.error({ err: error, job: job.id }, "a job could not be put away"),
        );
      }
    }
  }
  const ended = Promise.all(LANES.map(work)).then(() => {
    clearInterval(alive);
    clearTimeout(looking);
  });
  return { wake, ended };
}
