/** `npm test`: everything that has to hold, one step after another; closes with the count. */
import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, relative } from "node:path";
import { sideBySide } from "./side-by-side.mjs";

const results = mkdtempSync(join(tmpdir(), "septima-results-"));
let passed = 0;
let failed = 0;
/** What did not hold, and how it began to say so: told once more at the end of a long output. */
const names = [];
const MOST_LINES = 30;

function run(words, command, args) {
  console.log(`\n— ${words}`);
  return spawnSync(command, args, { stdio: "inherit" }).status === 0;
}

/** A step that holds or not; the first that does not ends the run. */
function step(words, command, ...args) {
  if (run(words, command, args)) passed++;
  else {
    failed++;
    names.push(words);
    finish();
  }
}

/** Several steps at the same time. */
async function steps(list) {
  const outcomes = await sideBySide(list);
  passed += outcomes.filter(Boolean).length;
  failed += outcomes.filter((ok) => !ok).length;
  names.push(...list.filter((_, i) => !outcomes[i]).map(([words]) => words));
  if (failed > 0) finish();
}

/** The first lines of why a test failed, set in below its name. */
const said = ({ failureMessages }) =>
  failureMessages
    .join("\n")
    .split("\n")
    .slice(0, MOST_LINES)
    .map((line) => `    ${line.slice(0, 300)}`)
    .join("\n");

/** A run of Vitest, counted test by test. */
function tests(words, name, ...args) {
  const file = join(results, `${name}.json`);
  const all = [
    "vitest",
    "run",
    "--reporter=default",
    "--reporter=json",
    `--outputFile.json=${file}`,
  ];
  const ok = run(words, "npx", [...all, ...args]);
  const report = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : null;
  passed += report?.numPassedTests ?? 0;
  // A file that did not load has no test that could fail.
  failed += report ? Math.max(report.numFailedTests, ok ? 0 : 1) : 1;
  const found = (report?.testResults ?? []).flatMap(({ name, status, assertionResults }) => {
    const tests = assertionResults.filter((one) => one.status === "failed");
    if (status === "failed" && tests.length === 0) return [name];
    return tests.map((one) => `${relative(".", name)}: ${one.fullName}\n${said(one)}`);
  });
  names.push(...(ok || found.length > 0 ? found : [words]));
}

function finish() {
  if (names.length > 0) console.log(`\nWhat failed:\n${names.map((one) => `  ${one}`).join("\n")}`);
  console.log(`\n${passed} passed, ${failed} failed`);
  process.exit(failed === 0 ? 0 : 1);
}

if (!existsSync("node_modules/.package-lock.json")) step("packages", "npm", "ci");
step("browser", "bash", "scripts/install-tools.sh");
// What only reads is done side by side.
await steps([
  ["types", "npm", "run", "--silent", "typecheck"],
  ["lint", "npm", "run", "--silent", "lint"],
  // The independent HTML checker is a Java program; where there is no Java the other tests have to do.
  ...(spawnSync("java", ["-version"]).status === 0
    ? [["valid HTML", "npm", "run", "--silent", "check:html"]]
    : []),
]);
tests("unit tests", "unit");
step("build", "npm", "run", "--silent", "build");
tests("browser tests", "browser", "--config", "e2e/vitest.config.ts");
finish();
