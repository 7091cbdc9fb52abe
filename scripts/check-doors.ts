/**
 * SQL stands in the server's stores alone. Doors open one way: app → server → core, app → core; core knows nobody, and nothing of Node or the
 * browser. Within core each layer uses only those below it.
 */
import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, normalize } from "node:path";
import { projectRoot } from "#server/root.ts";

/** Layers of core from the ground up; those in one line stand beside each other. */
const LAYERS = [
  [
    "counted.ts",
    "json.ts",
    "kilobytes.ts",
    "late.ts",
    "limits.ts",
    "picture-id.ts",
    "random.ts",
    "words.ts",
  ],
  ["codes", "delivery", "phrases", "schedule"],
  ["fields"],
  ["rules", "theme"],
  ["clients", "pictures"],
  ["items"],
  ["text"],
  ["markup", "derived"],
  ["document"],
  ["kinds"],
  ["blocks"],
  ["mentions"],
  ["languages"],
  ["render"],
  ["merge"],
  ["mail"],
  ["versions"],
  ["writing"],
  ["checks", "export", "files", "import", "links", "reviews", "splits", "templates"],
];
const FORBIDDEN: Record<string, RegExp> = {
  core: /^(node:|react|#app|#server|#demo|\.\.\/\.\.\/(app|server|demo)|@electric-sql)/,
  server: /^(#app|react$|react-dom)/,
  app: /^#demo/,
};

const root = projectRoot();
const isTest = (file: string) => /\.test\.tsx?$|(^|\/)testing\//.test(file);

function importsOf(file: string): string[] {
  const text = readFileSync(join(root, file), "utf8");
  return [...text.matchAll(/(?:from|import)\s*\(?\s*"([^"]+)"/g)].map((match) => match[1]!);
}

const layerOf = (path: string) => {
  const first = path.replace(/^core\//, "").split("/")[0]!;
  return LAYERS.findIndex((layer) => layer.includes(first));
};

/** What is wrong with the imports of a file. */
export function problemsOf(file: string, imports: readonly string[]): string[] {
  const [house] = file.split("/") as [string];
  const problems: string[] = [];
  for (const target of imports) {
    // The entry of the server brings the demo's seed with it.
    const entry = house === "server" && /server\/(main|dev)\.ts$/.test(file);
    if (FORBIDDEN[house]?.test(target) && !entry)
      problems.push(`${file} must not import ${target}`);
    if (house !== "core" || !target.startsWith(".")) continue;
    const path = normalize(join(dirname(file), target));
    const [mine, theirs] = [layerOf(file), layerOf(path)];
    const sameFolder = file.split("/")[1] === path.split("/")[1];
    if (theirs < 0) problems.push(`${file}: ${path} stands in no layer`);
    else if (!sameFolder && theirs >= mine) {
      problems.push(`${file} must not look up to ${path}`);
    }
  }
  return problems;
}

/** A statement or a piece of one, as a template. */
const SQL = /(?<!`)\b(sql(<[^`]*>)?|fragment)`/;
/** Where it may stand: the stores, the door itself, and core's rules, which are what the stores ask for. */
const SQL_ROOMS = /^(server\/(store|db)|core\/rules)\//;

/** JSON on its way into the database, past what makes it such as jsonb can hold. */
const RAW_JSON = /\}::jsonb/;
const JSON_DOOR = "server/db/values.ts";

/** What is wrong with where a file has its SQL. */
export const sqlProblemsOf = (file: string, text: string): string[] => [
  ...(!SQL_ROOMS.test(file) && SQL.test(text) ? [`${file}: SQL stands in server/store alone`] : []),
  ...(file !== JSON_DOOR && RAW_JSON.test(text)
    ? [`${file}: JSON goes by jsonb() of ${JSON_DOOR}`]
    : []),
];

const files = ["core", "server", "app"].flatMap((house) =>
  readdirSync(join(root, house), { recursive: true, encoding: "utf8" })
    .filter((name) => /\.tsx?$/.test(name))
    .map((name) => `${house}/${name}`)
    .filter((file) => !isTest(file)),
);
const problems = files.flatMap((file) => [
  ...problemsOf(file, importsOf(file)),
  ...sqlProblemsOf(file, readFileSync(join(root, file), "utf8")),
]);
for (const problem of problems) console.error(problem);
if (problems.length > 0) process.exit(1);
console.log(`doors: ${files.length} files hold`);
