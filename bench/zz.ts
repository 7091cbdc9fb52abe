import { heavyGroup } from "./edges/heavy.ts";

await heavyGroup((a, b) => console.log("figure", a, b));
process.exit(0);
