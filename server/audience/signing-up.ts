/** Signing up in two steps: asking, and confirming by the email that comes then. */
import { readAddress } from "#core/fields/index.ts";
import type { Json } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { phrases } from "#core/phrases/index.ts";
import { letterMessage } from "../mail/letter.ts";
import type { Services } from "../services.ts";
import { addToList } from "../store/audience.ts";
import { addContacts, changeValues, contactByAddress, standardValues } from "../store/contacts.ts";
import { getSettings } from "../store/settings.ts";
import {
  addSignup,
  countSignups,
  getForm,
  noteSignup,
  pendingSignup,
  type SignupForm,
  spendSignup,
} from "../store/signups.ts";
import { heldReason, release } from "../store/suppressions.ts";
import { chooseTopics, recordConsent } from "../store/topics.ts";

/**
 * Keeps that somebody asked, and sends the message that asks back. An address that asked too often of late,
 * or that the team has blocked, gets nothing; whoever fills in the form is not told, so that nobody learns who is known here.
 */
export async function askToJoin(
  services: Services,
  form: SignupForm,
  asked: { email: string; values: Record<string, Json>; topics: readonly string[] },
): Promise<void> {
  const { database, clock, config, mailer } = services;
  const { sql } = database;
  const now = clock.now();
  const { address } = readAddress(asked.email)!;
  const since = new Date(now.getTime() - LIMITS.signupSpan);
  if ((await countSignups(sql, address, since)) >= LIMITS.signupsPerAddress) return;
  if ((await heldReason(sql, address)) === "blocked") return;
  const token = await addSignup(sql, {
    form: form.id,
    email: address,
    values: asked.values,
    topics: asked.topics,
    wording: form.wording,
    at: now,
  });
  const { sender } = await getSettings(sql);
  const say = phrases(form.language);
  const letter = {
    to: address,
    subject: say.confirmSubject(sender.brandName),
    paragraphs: [say.confirmBody(sender.brandName), say.confirmIgnore],
    link: { words: say.confirmButton, address: `${config.publicAddress}/confirm/${token}` },
    lang: form.language,
  };
  await mailer.send(letterMessage(letter, sender, "confirm", now));
}

/** Confirms what was asked: the person is added, or found, and is no longer suppressed. False where the token is spent. */
export async function confirmJoin(services: Services, token: string): Promise<boolean> {
  const { database, clock } = services;
  const now = clock.now();
  return database.tx(async (sql) => {
    const signup = await pendingSignup(sql, token, now);
    if (!signup || !(await spendSignup(sql, token, now))) return false;
    const form = await getForm(sql, signup.form);
    const address = readAddress(signup.email)!;
    const known = await contactByAddress(sql, address);
    let contact = known?.id;
    if (contact === undefined) {
      const values = { ...(await standardValues(sql)), ...signup.values };
      [contact] = await addContacts(sql, [{ email: signup.email, values, createdAt: now }]);
    } else await changeValues(sql, contact, signup.values);
    await noteSignup(sql, token, contact!, (await getSettings(sql)).sending.orderDays);
    // They left once or their mailbox was full, and it has answered now; what the team has blocked stays.
    await release(sql, signup.email, ["unsubscribed", "bounced", "complained"]);
    const source = `sign-up form “${form?.name ?? "gone"}”`;
    await recordConsent(sql, contact!, {
      given: true,
      topic: null,
      source,
      wording: signup.wording,
      at: now,
    });
    if (form?.list) await addToList(sql, form.list, [contact!]);
    if (form && form.topics.length > 0) {
      await chooseTopics(sql, contact!, new Set(signup.topics), {
        source,
        language: form.language,
        at: now,
      });
    }
    return true;
  });
}
