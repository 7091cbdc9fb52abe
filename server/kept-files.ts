/** Files that are kept as they came, in a folder of the data folder, under the SHA-256 of their content. */
import { createHash } from "node:crypto";
import { mkdir, readdir } from "node:fs/promises";
import { join } from "node:path";
import { writeWhole } from "./whole-file.ts";

const FILE = /^[a-f0-9]{64}\.[a-z0-9]{1,5}$/;

export interface KeptFiles {
  /** Keeps a file; gives its name without the ending. */
  add(bytes: Uint8Array, ending: string): Promise<string>;
  /** Where the file of a name is; null where there is none. */
  pathOf(file: string): string | null;
}

export async function openKept(dataFolder: string, name: string): Promise<KeptFiles> {
  const folder = join(dataFolder, name);
  await mkdir(folder, { recursive: true });
  const files = new Set((await readdir(folder)).filter((file) => FILE.test(file)));
  return {
    async add(bytes, ending) {
      const id = createHash("sha256").update(bytes).digest("hex");
      const file = `${id}.${ending}`;
      if (files.has(file)) return id;
      await writeWhole(join(folder, file), bytes);
      files.add(file);
      return id;
    },
    pathOf: (file) => (files.has(file) ? join(folder, file) : null),
  };
}
