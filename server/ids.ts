import { createHash, randomBytes } from "node:crypto";
import { customAlphabet } from "nanoid";

/** A new id: letters and digits only, 12 of them (71 bits). */
export const newId = customAlphabet(
  "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz",
  12,
);

/** A short mark of a text, however long: the same for the same text alone (SHA-256, 192 bits of it). */
export const markOf = (text: string): string =>
  createHash("sha256").update(text).digest("base64url").slice(0, 32);

/** A secret that another system signs or checks with. */
export const newSecret = (): string => randomBytes(24).toString("base64url");
