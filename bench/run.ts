/** `npm run bench` runs every group, `npm run bench -- merge` one. Each prints `figure NAME VALUE`. */
import { combinationsGroup } from "./combinations.ts";
import { composerGroup } from "./composer.ts";
import { crashGroup } from "./crash/crash.ts";
import { doorsGroup } from "./doors.ts";
import { heavyGroup } from "./edges/heavy.ts";
import { moodsGroup } from "./edges/moods.ts";
import { requestsGroup } from "./edges/requests.ts";
import { editsGroup } from "./edits.ts";
import { foreignGroup } from "./foreign.ts";
import { importGroup } from "./imports.ts";
import { linkedGroup } from "./linked.ts";
import { liveGroup } from "./live.ts";
import { mergeGroup } from "./merge.ts";
import { patchGroup } from "./patch.ts";
import { peopleGroup } from "./people.ts";
import { personalGroup } from "./personal.ts";
import { picturesGroup } from "./pictures.ts";
import { proofGroup } from "./proof.ts";
import { renderGroup } from "./render.ts";
import { scaleGroup } from "./scale.ts";
import { manyGroup } from "./send/many.ts";
import { pagesGroup } from "./send/pages.ts";
import { sendGroup } from "./send/send.ts";
import { wallGroup } from "./wall.ts";

export type Figure = (name: string, value: number) => void;

/** Groups by name. A new one is a file beside this one and a line here. */
const GROUPS: Record<string, ((figure: Figure) => Promise<void>)[]> = {
  edits: [editsGroup, combinationsGroup],
  merge: [mergeGroup, patchGroup],
  render: [renderGroup],
  composer: [composerGroup],
  people: [peopleGroup, importGroup],
  personal: [personalGroup],
  live: [liveGroup],
  proof: [proofGroup, wallGroup],
  doors: [doorsGroup, foreignGroup, picturesGroup, linkedGroup],
  send: [sendGroup, manyGroup, pagesGroup],
  crash: [crashGroup],
  scale: [scaleGroup],
  edges: [requestsGroup, moodsGroup, heavyGroup],
};

const asked = process.argv[2];
const names = asked ? [asked] : Object.keys(GROUPS);
for (const name of names) {
  const group = GROUPS[name];
  if (!group) {
    console.error(`There is no group ${name}; there are: ${Object.keys(GROUPS).join(", ")}`);
    process.exit(2);
  }
  for (const run of group)
    await run((what, value) => console.log(`figure ${what} ${value.toFixed(3)}`));
}
process.exit(0);
