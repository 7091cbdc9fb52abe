import { customAlphabet } from "nanoid";

/** A new id: letters and digits only, 12 of them (71 bits). */
export const newId = customAlphabet(
  "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz",
  12,
);
