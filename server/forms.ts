import { z } from "zod";
import { LIMITS } from "#core/limits.ts";

/** A text that has to be there: blanks alone are not enough. `message` says what to write. */
export const required = (message: string, most: number = LIMITS.nameLength) =>
  z
    .string(message)
    .trim()
    .min(1, message)
    .max(most, "This is too long.")
    // The database keeps no such character, and nobody can have typed it.
    .refine((text) => !text.includes("\0"), "This has a character in it that cannot be kept.");
