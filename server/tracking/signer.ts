/** Signed tokens: what they say cannot be changed or made up without the key (HMAC, RFC 2104). */
import { createHmac, hkdfSync, timingSafeEqual } from "node:crypto";
import { z } from "zod";

/** A reader's own message, or a sample (a test, a preview) that counts nothing. */
export const tokenSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("message"), recipient: z.number().int().positive() }),
  z.object({
    kind: z.literal("sample"),
    campaign: z.string(),
    contact: z.number().int().nonnegative(),
  }),
  /** One message of a test: all it tells is that somebody opened it. */
  z.object({ kind: z.literal("test"), message: z.number().int().positive() }),
  /** What a launch sent, for anybody. */
  z.object({ kind: z.literal("launch"), launch: z.string().regex(/^[A-Za-z0-9]{12}$/) }),
  /** A person, whatever message led here. */
  z.object({ kind: z.literal("person"), contact: z.number().int().positive() }),
]);
export type Token = z.infer<typeof tokenSchema>;

const SIGNATURE_BYTES = 15;

export interface Signer {
  sign(token: Token): string;
  /** What a token says, or null when it was not made here. */
  read(text: string): Token | null;
  /** Seals the recipe of a picture that the server makes, and says whether a seal is its own. */
  seal(recipe: string): string;
  sealed(recipe: string, seal: string): boolean;
  /** A key for another purpose, apart from this one (HKDF, RFC 5869). */
  derive(purpose: string): string;
}

function spell(token: Token): string {
  switch (token.kind) {
    case "message":
      return `m${token.recipient.toString(36)}`;
    case "sample":
      return `s${token.campaign}.${token.contact.toString(36)}`;
    case "test":
      return `t${token.message.toString(36)}`;
    case "launch":
      return `l${token.launch}`;
    case "person":
      return `p${token.contact.toString(36)}`;
  }
}

function unspell(text: string): Token | null {
  if (text.startsWith("p")) {
    const value = tokenSchema.safeParse({
      kind: "person",
      contact: Number.parseInt(text.slice(1), 36),
    });
    return value.success ? value.data : null;
  }
  if (text.startsWith("l")) {
    return tokenSchema.safeParse({ kind: "launch", launch: text.slice(1) }).data ?? null;
  }
  if (text.startsWith("t")) {
    const message = Number.parseInt(text.slice(1), 36);
    return tokenSchema.safeParse({ kind: "test", message }).data ?? null;
  }
  if (text.startsWith("m")) {
    const value = tokenSchema.safeParse({
      kind: "message",
      recipient: Number.parseInt(text.slice(1), 36),
    });
    return value.success ? value.data : null;
  }
  const [campaign, contact] = text.slice(1).split(".");
  const value = tokenSchema.safeParse({
    kind: "sample",
    campaign,
    contact: Number.parseInt(contact ?? "", 36),
  });
  return value.success ? value.data : null;
}

export function createSigner(key: string): Signer {
  const derived = new Map<string, string>();
  const derive = (purpose: string) => {
    const before = derived.get(purpose);
    if (before) return before;
    const made = Buffer.from(hkdfSync("sha256", key, "septima", purpose, 32)).toString("base64url");
    derived.set(purpose, made);
    return made;
  };
  const hmac = (secret: string) => (text: string) =>
    createHmac("sha256", secret).update(text).digest().subarray(0, SIGNATURE_BYTES);
  const signature = hmac(derive("tracking tokens"));
  const sealOf = hmac(derive("made pictures"));
  const same = (given: string, expected: Buffer) => {
    const bytes = Buffer.from(given, "base64url");
    return bytes.length === expected.length && timingSafeEqual(bytes, expected);
  };
  return {
    sign(token) {
      const text = spell(token);
      return `${text}-${signature(text).toString("base64url")}`;
    },
    read(token) {
      const found = /^([msptl][A-Za-z0-9_.-]{1,80})-([A-Za-z0-9_-]{20})$/.exec(token);
      if (!found) return null;
      const [, text, given] = found as unknown as [string, string, string];
      return same(given, signature(text)) ? unspell(text) : null;
    },
    seal: (recipe) => sealOf(recipe).toString("base64url"),
    sealed: (recipe, seal) => same(seal, sealOf(recipe)),
    derive,
  };
}
