/** A small newsletter and a few people to send it to, for tests. */
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { doc, line, paragraph, tag } from "#core/text/index.ts";
import type { Services } from "../services.ts";
import { addList } from "../store/audience.ts";
import { createCampaign, getCampaign } from "../store/campaigns.ts";
import { addContacts } from "../store/contacts.ts";
import { addFields } from "../store/fields.ts";
import { saveSetting } from "../store/settings.ts";
import { addMember } from "../store/team.ts";

export function smallNewsletter(): EmailDocument {
  let n = 0;
  const id = () => `n${++n}`;
  const words = doc(paragraph("Dear ", tag("contact:first_name", "friend"), ", welcome."));
  const blocks = [
    createBlock("text", id, { words }),
    createBlock("button", id, {
      label: line("Visit"),
      to: { kind: "web", address: line("https://larkmoor.example/visit") },
    }),
    createBlock("footer", id),
  ];
  return createDocument([createBand(id, [createColumn(id, blocks)])], {
    envelope: {
      fromName: line("Larkmoor"),
      fromAddress: "news@larkmoor.example",
      replyTo: "",
      subject: line("Hello ", tag("contact:first_name", "friend")),
      preview: line("Come and see"),
    },
  });
}

/** Sets up a sender, people at these addresses in one list, and a campaign to it. */
export async function smallCampaign(services: Services, addresses: readonly string[]) {
  const { database, clock } = services;
  const { sql } = database;
  const now = clock.now();
  const member = await addMember(
    sql,
    { name: "Ines", email: "ines@larkmoor.example", role: "designer" },
    now,
  );
  await saveSetting(sql, "sender", {
    brandName: "Larkmoor",
    postalAddress: "Brook Lane 7",
    fromName: "Larkmoor",
    fromAddress: "news@larkmoor.example",
    replyTo: "",
    language: "en-GB",
    zone: "Europe/London",
  });
  await addFields(sql, [{ id: "first_name", label: "First name", type: "text" }]);
  const contacts = await addContacts(
    sql,
    addresses.map((email, i) => ({
      email,
      values: (i % 2 === 0 ? { first_name: `Reader ${i}` } : {}) as Record<string, string>,
      createdAt: now,
    })),
  );
  const list = await addList(sql, "All", contacts, now);
  const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
  const id = await createCampaign(sql, "A letter", smallNewsletter(), now, audience);
  return { member, contacts, list, campaign: (await getCampaign(sql, id))! };
}
