/** What axe says of the page that stands there. */
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import type { Studio } from "./studio.ts";

const axe = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

interface Violation {
  id: string;
  impact: string;
  nodes: { target: string[]; failureSummary: string }[];
}

/** What axe finds that is serious, in words; by all rules, or by some. */
export async function serious(studio: Studio, name: string, rules?: string[]): Promise<string[]> {
  // It is large, and stays on the page.
  if (!(await studio.run<boolean>("return window.axe !== undefined"))) await studio.run(axe);
  // Emails in frames are the designer's, and are checked by the proof.
  const violations = await studio.driver.executeAsyncScript<Violation[]>(
    "axe.run(document, { iframes: false, resultTypes: ['violations'], ...(arguments[0] && { runOnly: arguments[0] }) }).then(r => arguments[arguments.length - 1](r.violations))",
    rules ?? null,
  );
  return violations
    .filter(({ impact }) => impact === "serious" || impact === "critical")
    .map(({ id, nodes }) => {
      const { target, failureSummary } = nodes[0]!;
      return `${name}: ${id} at ${target.join(" ")}: ${failureSummary}`;
    });
}
