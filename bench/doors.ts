/** Doors: `gallery_open_vs_one` (the start of a campaign with 500 templates, over the same with one; at most 3). */
import { SHIPPED } from "#core/templates/index.ts";
import { addMember } from "#server/store/team.ts";
import { createTemplate } from "#server/store/templates.ts";
import { servicesOn } from "#server/testing/services.ts";
import { loader } from "../app/routes/campaigns.new.tsx";
import { routeArgs } from "../app/testing/route.ts";
import { least, withDatabase } from "./people-database.ts";
import type { Figure } from "./run.ts";

const TEMPLATES = 500;
const ROUNDS = 9;

export const doorsGroup = (figure: Figure): Promise<void> =>
  withDatabase(async (database) => {
    const services = await servicesOn(database);
    const { sql } = database;
    const now = services.clock.now();
    const person = { name: "Ada", email: "ada@larkmoor.example", role: "designer" as const };
    const member = await addMember(sql, person, now);
    const add = (i: number) => {
      const { name, about, category, make } = SHIPPED[i % 12]!;
      return createTemplate(sql, { name: `${name} ${i}`, about, category, doc: make(null) }, now);
    };
    const open = () =>
      least(ROUNDS, async () => void (await loader(routeArgs(services, member, {}))));
    await add(0);
    const one = await open();
    for (let i = 1; i < TEMPLATES; i++) await add(i);
    const many = await open();
    console.log(`with one ${one.toFixed(1)} ms, with ${TEMPLATES} ${many.toFixed(1)} ms`);
    figure("gallery_open_vs_one", many / one);
  });
