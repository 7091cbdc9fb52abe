import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, it } from "vitest";
import { openKept } from "./kept-files.ts";
import { writeWhole } from "./whole-file.ts";

it("keeps a file once however many bring it at once, and nothing of one that was cut off", async () => {
  const data = await mkdtemp(join(tmpdir(), "septima-kept-"));
  try {
    const kept = await openKept(data, "files");
    const bytes = Buffer.alloc(400_000, "plan");
    const ids = await Promise.all(Array.from({ length: 20 }, () => kept.add(bytes, "pdf")));
    expect(new Set(ids).size).toBe(1);
    const file = `${ids[0]}.pdf`;
    expect(await readdir(join(data, "files"))).toEqual([file]);
    expect((await readFile(kept.pathOf(file)!)).equals(bytes)).toBe(true);
    // As a kill leaves it.
    const half = `${"e".repeat(64)}.pdf`;
    await writeFile(join(data, "files", `${half}.aside.part`), "ha");
    const again = await openKept(data, "files");
    expect([again.pathOf(half), again.pathOf(`${half}.aside.part`)]).toEqual([null, null]);
    expect(again.pathOf(file)).toBe(kept.pathOf(file));
  } finally {
    await rm(data, { recursive: true, force: true });
  }
});

it("leaves nothing of a file that could not be put in its place", async () => {
  const data = await mkdtemp(join(tmpdir(), "septima-kept-"));
  try {
    // A folder stands where the file is to go.
    const path = join(data, "plan.pdf");
    await mkdir(path);
    await expect(writeWhole(path, Buffer.from("plan"))).rejects.toThrow();
    expect(await readdir(data)).toEqual(["plan.pdf"]);
  } finally {
    await rm(data, { recursive: true, force: true });
  }
});
