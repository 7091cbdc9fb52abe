import { expect, it } from "vitest";
import { createDocument } from "#core/blocks/index.ts";
import { hideCampaign } from "#server/store/bin.ts";
import { createCampaign } from "#server/store/campaigns.ts";
import { addMember } from "#server/store/team.ts";
import { startTestServices } from "#server/testing/services.ts";
import { routeArgs } from "../testing/route.ts";
import { action } from "./api.edits.ts";

it("says that a campaign was deleted to who is still writing in it", async () => {
  const services = await startTestServices();
  const { sql } = services.database;
  const now = services.clock.now();
  const member = await addMember(sql, { name: "A", email: "a@example.org", role: "owner" }, now);
  const campaign = await createCampaign(sql, "Spring", createDocument([]), now);
  await services.database.tx((tx) => hideCampaign(tx, campaign, "Spring", now));
  const answer = await action(routeArgs(services, member, { body: "{}" }, { campaign }));
  expect(answer.status).toBe(404);
  expect(await answer.json()).toMatchObject({
    problem: "refused",
    message: expect.stringContaining("has been deleted"),
  });
  await services.database.close();
});
