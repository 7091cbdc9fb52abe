/** Accessibility of the main views: axe finds nothing serious (WCAG 2.2 A and AA). */
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { afterAll, beforeAll, expect, it } from "vitest";
import { mainViews } from "./main-views.ts";
import { Studio } from "./studio.ts";

const axe = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

interface Violation {
  id: string;
  impact: string;
  nodes: { target: string[]; failureSummary: string }[];
}

for (const dark of [false, true]) {
  let studio: Studio;
  beforeAll(async () => {
    studio ??= await Studio.open({ dark });
  });
  afterAll(() => studio?.close());

  it(`finds nothing serious, ${dark ? "dark" : "light"}`, async () => {
    studio = studio ?? (await Studio.open({ dark }));
    const found: string[] = [];
    for (const { name, path } of await mainViews(studio)) {
      await studio.go(path);
      await studio.driver.sleep(400);
      await studio.run(axe);
      // Emails in frames are the designer's, and are checked by the proof.
      const violations = await studio.driver.executeAsyncScript<Violation[]>(
        "axe.run(document, { iframes: false }).then(r => arguments[arguments.length - 1](r.violations))",
      );
      for (const { id, impact, nodes } of violations) {
        if (impact !== "serious" && impact !== "critical") continue;
        const { target, failureSummary } = nodes[0]!;
        found.push(`${name}: ${id} at ${target.join(" ")}: ${failureSummary}`);
      }
    }
    expect(found).toEqual([]);
  }, 150_000);
}
