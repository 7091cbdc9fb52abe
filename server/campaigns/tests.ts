/** Test sends: the email as some readers would get it, to addresses of the team. A test counts nothing. */
import { choicesIn } from "#core/blocks/choices.ts";
import { nameOf } from "#core/blocks/names.ts";
import { find } from "#core/document/index.ts";
import { refOfItem } from "#core/items/index.ts";
import { liveRef } from "#core/kinds/kind.ts";
import { languageOf } from "#core/languages/index.ts";
import { mentionsIn } from "#core/mentions/index.ts";
import { lineWords, type Reader } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { describe, type World } from "#core/rules/index.ts";
import { line, type Tag } from "#core/text/index.ts";
import { readerOf, readersAs, type Unsent, worldOfEmail } from "../audience/readers.ts";
import { newId } from "../ids.ts";
import type { Services } from "../services.ts";
import { attachmentsOf, codedFiles } from "../store/attachments.ts";
import type { Campaign } from "../store/campaigns.ts";
import { rulesOf } from "../store/conditions.ts";
import { tagFields } from "../store/tag-values.ts";
import { beginTest, failedTest } from "../store/tests.ts";
import { surroundings, testMessages } from "./emails.ts";
import { annotated, type Filled } from "./test-note.ts";

export interface TestOrder {
  readonly doc: Unsent["doc"];
  readonly to: readonly string[];
  /** Contacts as whom it is filled in; 0 for nobody. */
  readonly contacts: readonly number[];
  readonly note: string;
  /** With a table of what was filled in. */
  readonly table: boolean;
  readonly member: string;
}

/** What was filled in for a reader: every tag, every condition, every choice of items. */
function filledIn(unsent: Unsent, world: World, reader: Reader): Filled[] {
  const { doc, around } = unsent;
  const email = compile(doc, around, languageOf(doc, reader.values));
  const fields = tagFields(world);
  const tags = new Map<string, Tag>();
  for (const one of mentionsIn(doc)) {
    if (one.what === "tag") tags.set(JSON.stringify([one.tag.ref, one.tag.format]), one.tag);
  }
  const said = [...tags.values()].map(
    (tag): Filled => ({
      kind: "tag",
      name: fields.get(tag.ref.slice(tag.ref.indexOf(":") + 1))?.label ?? tag.ref,
      value: lineWords(line(tag), reader, email),
    }),
  );
  const held = rulesOf(email.conditions).map(
    (rule, i): Filled => ({
      kind: "condition",
      name: rule ? describe(rule, world) : "a rule that cannot be read",
      value: reader.bits?.[i] === "1" ? "yes" : "no",
    }),
  );
  const chosen = choicesIn(doc).map(({ node }): Filled => {
    const list = around.live?.get(node);
    const own = reader.values[liveRef(node)];
    const items = (list?.items ?? []).filter(
      (item) => !list?.perReader || (Array.isArray(own) && own.includes(refOfItem(item))),
    );
    const block = find(doc, node)?.node;
    return {
      kind: "items",
      name: block ? nameOf(block) : "",
      value: items.map(({ title }) => title).join(", ") || "none",
    };
  });
  return [...said, ...held, ...chosen];
}

/** Sends a test; gives for each message whether it was taken, and what was answered. */
export async function sendTests(
  services: Services,
  campaign: Campaign,
  { doc, to, contacts, note, table, member }: TestOrder,
): Promise<readonly { address: string; taken: boolean; reply: string }[]> {
  const { database, config, clock, signer, mailer } = services;
  const now = clock.now();
  const around = await surroundings(database.sql, config, doc, now, campaign.id);
  const unsent = { doc, around, campaign };
  const world = await worldOfEmail(services, unsent);
  const known = await readersAs(services, unsent, world, contacts.filter(Boolean));
  const readers = new Map<number, Reader>();
  for (const id of contacts) {
    readers.set(id, known.get(id) ?? (await readerOf(services, unsent, world, null)));
  }
  const wanted = [...readers].flatMap(([id]) =>
    to.map((address) => ({ address, contact: known.has(id) ? id : null })),
  );
  const order = { campaign: campaign.id, member, at: now };
  const ids = await database.tx((sql) => beginTest(sql, order, wanted));
  const files = await attachmentsOf(database.sql, campaign.id);
  const attachments = await codedFiles(
    database.sql,
    files.map(({ id }) => id),
  );
  const messages = [...readers].flatMap(([id, reader], i) => {
    const token = signer.sign({ kind: "sample", campaign: campaign.id, contact: id });
    const own = { ...reader, token };
    const email = compile(doc, around, languageOf(doc, reader.values));
    const mark = readers.size > 1 ? `Test ${i + 1} of ${readers.size}` : "Test";
    return testMessages(email, {
      to,
      mark,
      reader: own,
      signer,
      newId,
      date: now,
      attachments,
    }).map((message, j) => {
      const id = ids[i * to.length + j]!;
      const opened = `${config.publicAddress}/o/${signer.sign({ kind: "test", message: id })}.gif`;
      const rows = table ? filledIn(unsent, world, own) : [];
      return { id, message: annotated(message, { note, rows, opened }) };
    });
  });
  return Promise.all(
    messages.map(async ({ id, message }) => {
      const { state, reply } = await mailer.send(message);
      const taken = state === "accepted";
      if (!taken) await failedTest(database.sql, id, reply);
      return { address: message.to.address, taken, reply };
    }),
  );
}
