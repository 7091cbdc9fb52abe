/** Takes what a shop tells of views and orders. */
import { createHmac, timingSafeEqual } from "node:crypto";
import { deedsOf, type ShopDeed, shopMessageSchema } from "#core/items/shop-message.ts";
import { parseJson } from "#core/json.ts";
import type { Services } from "../services.ts";
import { isNewMessage, writeDeeds } from "../store/deeds.ts";
import { getSource } from "../store/sources.ts";

export interface Taken {
  /** How many of the deeds are of contacts we know. */
  readonly taken: number;
  readonly told: number;
}

/** Whether a signature (HMAC-SHA256 of the body, in hexadecimal; RFC 2104) was made with the secret. */
export function isSigned(body: Uint8Array, signature: string | null, secret: string): boolean {
  const given = Buffer.from((signature ?? "").replace(/^sha256=/i, ""), "hex");
  const own = createHmac("sha256", secret).update(body).digest();
  return given.length === own.length && timingSafeEqual(given, own);
}

/** Writes down what was done in the shop of a catalogue, for the contacts we know. */
export const takeDeeds = async (
  { database }: Pick<Services, "database">,
  source: string,
  deeds: readonly ShopDeed[],
): Promise<Taken> => ({
  taken: await database.tx((tx) => writeDeeds(tx, source, deeds)),
  told: deeds.length,
});

/**
 * Takes a signed message of a shop. Gives what came of it, or the status to answer with where it is refused: 404 no
 * such catalogue, 401 not signed, 400 not to be read. One that was told before is taken again as nothing.
 */
export async function takeShopMessage(
  { database, clock }: Pick<Services, "database" | "clock">,
  id: string,
  body: Uint8Array,
  signature: string | null,
): Promise<Taken | { status: 400 | 401 | 404; message: string }> {
  const source = await getSource(database.sql, id);
  if (!source?.secret) return { status: 404, message: "There is no such catalogue." };
  if (!isSigned(body, signature, source.secret)) {
    return { status: 401, message: "The signature is not that of this message." };
  }
  const message = shopMessageSchema.safeParse(parseJson(Buffer.from(body).toString("utf8")));
  if (!message.success) {
    const issue = message.error.issues[0]!;
    return { status: 400, message: `${issue.path.join(".") || "The message"}: ${issue.message}` };
  }
  const deeds = deedsOf(message.data);
  return database.tx(async (tx) => ({
    taken: (await isNewMessage(tx, id, message.data.id, clock.now()))
      ? await writeDeeds(tx, id, deeds)
      : 0,
    told: deeds.length,
  }));
}
