/**
 * The proof: `checks_60_blocks_vs_compile` (all checks of an email of 60 blocks against compiling it; at most 3),
 * `pair_cover_vs_all` (readers in whom every two of 12 conditions are seen together, against the versions there are; at
 * most 0.004), `mistakes_found` of `fixtures/mistakes.md` in each of ten good emails (60), and `false_alarms` that stop
 * or want to be looked at in those emails (0).
 */
import { readFileSync } from "node:fs";
import { runChecks } from "#core/checks/index.ts";
import { compile } from "#core/render/index.ts";
import { goodEmails, type Scene } from "#core/testing/good-emails.ts";
import { MISTAKES } from "#core/testing/mistakes.ts";
import { SURROUNDINGS } from "#core/testing/rendered.ts";
import { smallestSet, type Version } from "#core/versions/index.ts";
import { lookUp } from "#server/writing/dictionaries.ts";
import { spellingOf } from "#server/writing/spelling.ts";
import { newsletter } from "./newsletter.ts";
import type { Figure } from "./run.ts";

const CONDITIONS = 12;

const OURS = new Set(["larkmoor"]);
const findingsOf = async ({ doc, around, fields, readers }: Scene) => [
  ...runChecks(doc, around, fields, readers),
  ...(await spellingOf(lookUp, doc, OURS)),
];

async function mistakes(figure: Figure): Promise<void> {
  const listed = [
    ...readFileSync("fixtures/mistakes.md", "utf8").matchAll(/^\| (\d+) \| .+ \| (.+) \|$/gm),
  ].map(([, number, check]) => ({ number: Number(number), check: check! }));
  let found = 0;
  for (const { number, check } of listed) {
    const each = await Promise.all(
      goodEmails().map(async (scene) => {
        const made = MISTAKES[number]!(scene);
        return made === null || (await findingsOf(made)).some((one) => one.check === check);
      }),
    );
    if (each.every(Boolean)) found++;
    else console.log(`not found everywhere: ${number}`);
  }
  figure("mistakes_found", found);
  let alarms = 0;
  for (const scene of goodEmails()) {
    alarms += (await findingsOf(scene)).filter(({ severity }) => severity !== "hint").length;
  }
  figure("false_alarms", alarms);
}

const timed = (work: () => void): number => {
  const begun = performance.now();
  work();
  return performance.now() - begun;
};
const ROUNDS = 80;

export async function proofGroup(figure: Figure): Promise<void> {
  // Another email each time: what is known of the last one helps nobody. In turn, so that both meet the same machine.
  let [compiled, checked] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  for (let i = 0; i < ROUNDS; i++) {
    const [one, other] = [structuredClone(newsletter(60, 12)), structuredClone(newsletter(60, 12))];
    compiled = Math.min(
      compiled,
      timed(() => compile(one, SURROUNDINGS)),
    );
    checked = Math.min(
      checked,
      timed(() => runChecks(other, SURROUNDINGS, new Map())),
    );
  }
  figure("checks_60_blocks_vs_compile", checked / compiled);

  const versions = Array.from({ length: 2 ** CONDITIONS }, (_, i): Version => {
    const key = `en:${i.toString(2).padStart(CONDITIONS, "0")}`;
    return { key, lang: "en", bits: "", people: 1, sample: i };
  });
  figure("pair_cover_vs_all", smallestSet(versions, { pairs: true }).length / versions.length);
  await mistakes(figure);
}
