/** Links of reviewers: what they say cannot be guessed or made up, and ends with what it is signed with. */
import { createHmac, randomBytes, timingSafeEqual } from "node:crypto";
import type { Services } from "../services.ts";
import { getReviewer, type Reviewer } from "../store/reviews.ts";

/** What a link is signed with. */
export const newNonce = (): string => randomBytes(24).toString("base64url");

const signed = (
  { signer }: Pick<Services, "signer">,
  { id, nonce }: Pick<Reviewer, "id" | "nonce">,
) =>
  createHmac("sha256", signer.derive("links of reviewers"))
    .update(`${id}.${nonce}`)
    .digest("base64url");

/** The path of a reviewer's link. */
export const reviewPath = (
  services: Pick<Services, "signer">,
  reviewer: Pick<Reviewer, "id" | "nonce">,
): string => `/review/${reviewer.id.toString(36)}.${signed(services, reviewer)}`;

/** The reviewer whose link has this token; null where there is none, or where it has ended. */
export async function reviewerOf(services: Services, token: string): Promise<Reviewer | null> {
  const [, id, signature] = /^([1-9a-z][0-9a-z]{0,9})\.([\w-]{43})$/.exec(token) ?? [];
  if (!id || !signature) return null;
  const reviewer = await getReviewer(services.database.sql, Number.parseInt(id, 36));
  if (!reviewer || reviewer.revokedAt || reviewer.expiresAt <= services.clock.now()) return null;
  const known = Buffer.from(signed(services, reviewer));
  const told = Buffer.from(signature);
  return timingSafeEqual(known, told) ? reviewer : null;
}
