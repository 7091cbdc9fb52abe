import { existsSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

/** The project's folder, whether this runs from the source or from the build. */
export function projectRoot(): string {
  let folder = dirname(fileURLToPath(import.meta.url));
  while (!existsSync(join(folder, "package.json"))) {
    const up = dirname(folder);
    if (up === folder) throw new Error("The project's folder was not found");
    folder = up;
  }
  return folder;
}
