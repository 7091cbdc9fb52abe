/** `npm run test:quick`: types, lint and the unit tests that a change touches; against HEAD, or what is given. */
import { sideBySide } from "./side-by-side.mjs";

const since = process.argv[2] ?? "HEAD";
const ended = await sideBySide([
  ["types", "npm", "run", "--silent", "typecheck"],
  ["lint", "npm", "run", "--silent", "lint"],
  ["unit tests", "npx", "vitest", "run", "--changed", since, "--passWithNoTests"],
]);
process.exit(ended.every(Boolean) ? 0 : 1);
