/**
 * What is compared with how it was when it was last looked at, in fixtures/golden. Where it is meant to change,
 * `npx vitest run core -t "last looked at" -u` writes what comes now, and the change is read as a diff.
 */
import { join } from "node:path";
import { expect } from "vitest";

/** HTML with one tag or rule on a line, so that a change is seen where it is. */
export const lines = (html: string): string[] =>
  html
    .replace(/>(?=<)/g, ">\n")
    .replace(/([;}])(?=[^<>]*<\/style>)/g, "$1\n")
    .split("\n");

/** Compares with the file of this name; one that is not there yet is written. */
export const asLastLookedAt = (name: string, parts: readonly string[]): Promise<void> =>
  expect(`${parts.join("\n")}\n`).toMatchFileSnapshot(join(process.cwd(), "fixtures/golden", name));
