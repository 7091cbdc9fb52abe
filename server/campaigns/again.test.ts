import { afterEach, beforeEach, expect, it } from "vitest";
import type { EmailProps } from "#core/blocks/layout.ts";
import { codedFile } from "#core/mail/index.ts";
import { wordsOf } from "#core/text/index.ts";
import { runLaunch } from "../jobs/sender.ts";
import { attach, attachmentsOf, codedFiles } from "../store/attachments.ts";
import { getSegment } from "../store/audience.ts";
import { getCampaign } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import { getRecipient } from "../store/launches/progress.ts";
import { recordEvent } from "../store/reading.ts";
import { earlierSubjects, lastSubject } from "../store/results.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { sendAgain } from "./again.ts";
import { readersOf } from "./draft.ts";
import { scheduleCampaign } from "./scheduling.ts";

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(() => services.close());

it("makes a draft with another subject for those who have not opened by the time it leaves", async () => {
  const { sql } = services.database;
  const addresses = ["a@x.example", "b@x.example", "c@x.example", "bounce@x.example"];
  const { campaign, member } = await smallCampaign(services, addresses);
  const content = new TextEncoder().encode("Where we meet");
  for (const name of ["map.txt", "way.txt"])
    await attach(sql, campaign.id, { name, type: "text/plain", content }, services.clock.now());
  expect(await sendAgain(services, campaign, "Once more")).toBeNull();
  await scheduleCampaign(services, campaign, null, "UTC", member.id);
  const sent = (await getCampaign(sql, campaign.id))!;
  await runLaunch(services, sent.launchId!);
  const gone = (await getCampaign(sql, campaign.id))!;
  const rows = await sql<{ id: number }>`select id from recipients order by email`;
  const [first, second] = await Promise.all(rows.map(({ id }) => getRecipient(sql, id)));
  await recordEvent(sql, { kind: "opened", recipient: first!, at: services.clock.now() });

  const id = (await sendAgain(services, gone, "Once more"))!;
  const again = (await getCampaign(sql, id))!;
  const { doc } = (await loadDocument(sql, again.documentId))!;
  const { subject } = (doc.root.props as unknown as EmailProps).envelope;
  expect([again.name, wordsOf(subject), again.state]).toEqual([
    "A letter, again",
    "Once more",
    "draft",
  ]);
  // The subject that went out last, but for its own.
  const sentDoc = (await loadDocument(sql, campaign.documentId))!.doc;
  const own = wordsOf((sentDoc.root.props as unknown as EmailProps).envelope.subject);
  expect([await lastSubject(sql, null), await lastSubject(sql, campaign.id)]).toEqual([own, null]);
  expect(await earlierSubjects(sql, "another")).toEqual([
    { subject: own, readers: 3, opened: 1 / 3 },
  ]);
  expect(await earlierSubjects(sql, campaign.id)).toEqual([]);
  // What went with it goes with it again, in its order.
  const files = await attachmentsOf(sql, id);
  expect(files.map(({ name }) => name)).toEqual(["map.txt", "way.txt"]);
  const [map] = await codedFiles(sql, [files[0]!.id]);
  expect(map).toEqual({ name: "map.txt", type: "text/plain", coded: codedFile(content) });
  // Two have it unopened; what bounced was not sent to anybody.
  expect(await readersOf(services, again)).toMatchObject({ readers: 2 });
  // Whoever opens meanwhile, or clicks, is not asked again.
  await recordEvent(sql, {
    kind: "clicked",
    recipient: second!,
    at: services.clock.now(),
    link: 1,
  });
  expect(await readersOf(services, again)).toMatchObject({ readers: 1 });
  // Made twice, the segment is the same.
  const twice = (await getCampaign(sql, (await sendAgain(services, gone, "And again"))!))!;
  expect(twice.audience).toEqual(again.audience);
  const segment = await getSegment(sql, again.audience.include[0]!.id);
  expect(segment!.name).toBe("Did not open “A letter”");
});
