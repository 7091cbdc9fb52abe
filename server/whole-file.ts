/** Files that are there whole or not at all. */
import { randomUUID } from "node:crypto";
import { rename, rm, writeFile } from "node:fs/promises";

/** Writes a file aside and puts it in its place: a kill leaves no half of one, nor do two who write the same at once. */
export async function writeWhole(path: string, data: Uint8Array): Promise<void> {
  const aside = `${path}.${randomUUID()}.part`;
  try {
    await writeFile(aside, data);
    await rename(aside, path);
  } catch (error) {
    // A full disk is not filled further.
    await rm(aside, { force: true }).catch(() => {});
    throw error;
  }
}
