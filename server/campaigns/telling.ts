/** Tells another system when a sending starts and ends: signed, and tried again where it is not heard. */
import { createHmac } from "node:crypto";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import { enqueue } from "../store/jobs.ts";
import { getLaunch } from "../store/launches/freeze.ts";
import { progressOf } from "../store/launches/progress.ts";
import { getSettings } from "../store/settings.ts";

type Happened = "started" | "ended";
const payloadSchema = z.object({
  launch: z.string(),
  what: z.enum(["started", "ended"]),
  at: z.iso.datetime(),
});

/** Has it told, where somebody wants to hear it. In a transaction. */
export async function toTell(sql: Sql, launch: string, what: Happened, at: Date): Promise<void> {
  if ((await getSettings(sql)).webhook === null) return;
  await enqueue(sql, "tell", { launch, what, at: at.toISOString() }, at);
}

/** The signature of what is told: HMAC-SHA256 of it, in hexadecimal (RFC 2104). */
export const signatureOf = (body: string, secret: string): string =>
  createHmac("sha256", secret).update(body).digest("hex");

/**
 * The job: throws a FetchError where it was not heard, to be tried again. What nobody has heard after a day is left.
 */
export async function tell(services: Services, payload: unknown): Promise<null> {
  const { launch: id, what, at } = payloadSchema.parse(payload);
  const { database, clock, fetcher, log, config } = services;
  const { sql } = database;
  const { webhook } = await getSettings(sql);
  const launch = await getLaunch(sql, id);
  if (!webhook || !launch) return null;
  const { accepted, bounced, total } = await progressOf(sql, id);
  const body = JSON.stringify({
    // The same however often it is told: heard twice, it counts once.
    id: `${id}.${what}`,
    event: `sending.${what}`,
    at,
    campaign: { id: launch.campaignId, name: launch.name },
    ...(what === "ended" && { readers: total, accepted, bounced }),
    results: `${config.publicAddress}/campaigns/${launch.campaignId}/results`,
  });
  const headers = {
    "content-type": "application/json",
    "content-length": String(Buffer.byteLength(body)),
    "x-signature": signatureOf(body, webhook.secret),
  };
  try {
    await fetcher(webhook.address, { post: { body, headers }, signal: services.stopping });
  } catch (error) {
    if (clock.now().getTime() - Date.parse(at) < LIMITS.tellForMs) throw error;
    log.warn({ err: error, launch: id, what }, "nobody heard that a sending went on");
  }
  return null;
}
