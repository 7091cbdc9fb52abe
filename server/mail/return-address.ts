/**
 * Addresses at which a message comes back to us: its bounces (VERP), and its way out by mail (RFC 2369). Signed, so that
 * nobody makes one for a message they have not got; in small letters, because servers on the way may change the others.
 */
import { createHmac, timingSafeEqual } from "node:crypto";
import type { Signer } from "../tracking/signer.ts";

export const RETURN_KINDS = { bounce: "b", leave: "u" } as const;
export type ReturnKind = keyof typeof RETURN_KINDS;

/** Hex digits of the signature: 80 bits. */
const DIGITS = 20;

const signature = (signer: Signer, words: string) =>
  createHmac("sha256", signer.derive("returns")).update(words).digest("hex").slice(0, DIGITS);

/** What stands before the @, for a recipient's message. */
export function returnLocal(signer: Signer, kind: ReturnKind, recipient: number): string {
  const words = `${RETURN_KINDS[kind]}${recipient.toString(36)}`;
  return `${words}-${signature(signer, words)}`;
}

export interface Returned {
  readonly kind: ReturnKind;
  readonly recipient: number;
}

/** What an address says; null where it is none of ours. */
export function readReturn(signer: Signer, address: string): Returned | null {
  const local = address.split("@")[0]!.toLowerCase();
  const found = /^([bu])([0-9a-z]{1,11})-([0-9a-f]{20})$/.exec(local);
  if (!found) return null;
  const [, letter, id, given] = found as unknown as [string, string, string, string];
  const own = signature(signer, letter + id);
  if (!timingSafeEqual(Buffer.from(own), Buffer.from(given))) return null;
  return {
    kind: letter === RETURN_KINDS.bounce ? "bounce" : "leave",
    recipient: Number.parseInt(id, 36),
  };
}
