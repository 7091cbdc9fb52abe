/**
 * Linked blocks: `linked_change_100` (a linked block that stands in 100 drafts changed, and one of them read as it is
 * then, over the same of one that stands in one; at most 2). How long it takes until all 100 are written is printed.
 */
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { linkedTo } from "#core/blocks/linked.ts";
import { doc } from "#core/text/index.ts";
import { bringUpToDate, changeEverywhere, spread } from "#server/campaigns/linking.ts";
import { createCampaign, getCampaign } from "#server/store/campaigns.ts";
import { save } from "#server/store/saved.ts";
import { addMember } from "#server/store/team.ts";
import { servicesOn } from "#server/testing/services.ts";
import { least, withDatabase } from "./people-database.ts";
import type { Figure } from "./run.ts";

const DRAFTS = 100;
const ROUNDS = 9;

export const linkedGroup = (figure: Figure): Promise<void> =>
  withDatabase(async (database) => {
    const services = await servicesOn(database);
    const { sql } = database;
    const now = services.clock.now();
    const person = { name: "Ada", email: "ada@larkmoor.example", role: "designer" as const };
    const member = (await addMember(sql, person, now)).id;
    let n = 0;
    const id = () => `n${++n}`;
    const text = (words: string) => createBlock("text", id, { words: doc(words) });
    /** A saved block that stands in so many drafts, each with twenty blocks of its own. */
    const standing = async (drafts: number) => {
      const saved = (await save(sql, `In ${drafts}`, [text("As it was")], now))!;
      let document = "";
      for (let i = 0; i < drafts; i++) {
        const own = Array.from({ length: 20 }, (_, at) => text(`Of its own ${at}`));
        const email = createDocument([
          createBand(id, [createColumn(id, [...own, linkedTo(saved, text("As it was"))])]),
        ]);
        const campaign = await createCampaign(sql, `Draft ${i} of ${drafts}`, email, now);
        document = (await getCampaign(sql, campaign))!.documentId;
      }
      let round = 0;
      return {
        change: () =>
          least(ROUNDS, async () => {
            await changeEverywhere(services, saved, text(`Changed ${++round}`), member);
            await bringUpToDate(services, document, member);
          }),
        spread: () => spread(services, saved, member),
      };
    };
    const one = await standing(1);
    const many = await standing(DRAFTS);
    const first = await one.change();
    const all = await many.change();
    const began = performance.now();
    await many.spread();
    const took = performance.now() - began;
    console.log(
      `in one ${first.toFixed(1)} ms, in ${DRAFTS} ${all.toFixed(1)} ms; all written after ${took.toFixed(0)} ms`,
    );
    figure("linked_change_100", all / first);
  });
