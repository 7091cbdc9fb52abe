import { customAlphabet } from "nanoid";

/** Ids of new nodes: letters and digits, so that they can stand anywhere. */
export const newNodeId = customAlphabet(
  "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz",
  10,
);
