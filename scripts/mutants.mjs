/**
 * `npm run mutants -- N SEED`: changes one token at N places drawn at random and looks whether a unit test notices
 * (mutation testing). Prints each that nobody noticed, and `figure mutants_found` with the share that was.
 */
import { mkdtempSync, readdirSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, relative } from "node:path";
import { commonTokens } from "@stryker-mutator/api/plugin";
import { Stryker } from "@stryker-mutator/core";
import { createInstrumenter } from "@stryker-mutator/instrumenter";
import { createInjector } from "typed-inject";

const count = Number(process.argv[2] ?? 60);
const seed = Number(process.argv[3] ?? 1);

/** What is changed: the computation, and what is stored and sent. */
const FOLDERS = ["core", "server/store", "server/jobs", "server/mail"];
const OPTIONS = { plugins: null, excludedMutations: [], ignorers: [], noHeader: true };

/** Numbers from 0 to 1, the same for a seed (mulberry32). */
function dice(state) {
  let a = state >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

const sources = [];
for (const folder of FOLDERS) {
  for (const file of readdirSync(folder, { recursive: true })) {
    if (/\.ts$/.test(file) && !/\.test\.ts$|testing\//.test(file))
      sources.push(`${folder}/${file}`);
  }
}
sources.sort();

const quiet = Object.fromEntries(
  ["trace", "debug", "info", "warn", "error", "fatal"].map((level) => [level, () => {}]),
);
const logger = { ...quiet, isDebugEnabled: () => false, isTraceEnabled: () => false };
const injector = createInjector().provideValue(commonTokens.logger, logger);
const { mutants } = await createInstrumenter(injector).instrument(
  sources.map((name) => ({ name, mutate: true, content: readFileSync(name, "utf8") })),
  OPTIONS,
);
const keyOf = (file, { start, end }, replacement) =>
  `${file}:${start.line}:${start.column}-${end.line}:${end.column} ${replacement}`;
const random = dice(seed);
const drawn = new Map();
/** Some are in what runs once when a module is loaded: trying those would take all tests each, and they are left out. */
const SPARE = 1.7;
while (drawn.size < Math.min(Math.ceil(count * SPARE), mutants.length)) {
  const mutant = mutants[Math.floor(random() * mutants.length)];
  drawn.set(keyOf(mutant.fileName, mutant.location, mutant.replacement), mutant);
}

// Lines count from 1 from here on, and from 0 in what the instrumenter gives.
const places = [...drawn.values()].map(({ fileName, location: { start, end } }) => ({
  fileName,
  start: { line: start.line + 1, column: start.column },
  end: { line: end.line + 1, column: end.column },
}));
globalThis.drawnMutants = places;

const report = join(mkdtempSync(join(tmpdir(), "septima-mutants-")), "report.json");
await new Stryker({
  mutate: places.map(
    ({ fileName, start, end }) =>
      `${fileName}:${start.line}:${start.column}-${end.line}:${end.column}`,
  ),
  testRunner: "vitest",
  plugins: ["@stryker-mutator/vitest-runner", "./scripts/mutants-drawn.mjs"],
  ignorers: ["drawn"],
  vitest: { configFile: "vitest.config.ts", related: false },
  coverageAnalysis: "perTest",
  ignoreStatic: true,
  concurrency: 2,
  timeoutMS: 20_000,
  // All tests once, while other work may be going on.
  dryRunTimeoutMinutes: 20,
  reporters: ["json"],
  jsonReporter: { fileName: report },
  disableTypeChecks: false,
  checkers: [],
  ignorePatterns: ["build", "docs/screenshots", ".git", "e2e", "bench"],
  allowConsoleColors: false,
}).runMutationTest();

const { files } = JSON.parse(readFileSync(report, "utf8"));
const outcomes = new Map();
for (const [name, { mutants: tried }] of Object.entries(files)) {
  const file = relative(process.cwd(), join(process.cwd(), name));
  for (const outcome of tried) {
    const { start, end } = outcome.location;
    const from0 = {
      start: { line: start.line - 1, column: start.column - 1 },
      end: { line: end.line - 1, column: end.column - 1 },
    };
    outcomes.set(keyOf(file, from0, outcome.replacement), { ...outcome, file });
  }
}
let found = 0;
let asked = 0;
for (const key of drawn.keys()) {
  const { file, location, replacement, status, mutatorName } = outcomes.get(key) ?? {};
  if (!status || status === "Ignored" || asked === count) continue;
  asked++;
  if (status === "Killed" || status === "Timeout" || status === "RuntimeError") found++;
  else {
    const { line, column } = location.start;
    const what = `${mutatorName} → ${replacement?.slice(0, 80)}`;
    console.log(`not noticed (${status}): ${file}:${line}:${column} ${what}`);
  }
}
console.log(`${found} of ${asked} changes were noticed`);
console.log(`figure mutants_found ${(found / asked).toFixed(3)}`);
process.exit(0);
