/** The first hour: what is missing on the way to a first send. */
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { compile } from "#core/render/index.ts";
import { doc, line, phrase } from "#core/text/index.ts";
import { newId } from "../ids.ts";
import type { Services } from "../services.ts";
import { begunSoFar } from "../store/first-steps.ts";
import { getSettings, saveSetting } from "../store/settings.ts";
import { type Member, passwordIsSet } from "../store/team.ts";
import { surroundings, testMessages } from "./emails.ts";

export interface FirstSteps {
  /** Whether each has been done. */
  readonly you: boolean;
  readonly brand: boolean;
  readonly people: boolean;
  readonly email: boolean;
  readonly test: boolean;
  readonly delivery: boolean;
  /** The campaign in which a test can be sent. */
  readonly campaign: string | null;
  /** Mail goes to a service of one's own and not to the outbox. */
  readonly elsewhere: boolean;
}

/** What has been done and what is missing; null once something has gone out. */
export async function firstSteps(services: Services, member: Member): Promise<FirstSteps | null> {
  const { sql } = services.database;
  const { sent, ...begun } = await begunSoFar(sql);
  if (sent) return null;
  const { sender, firstSteps: told } = await getSettings(sql);
  return {
    ...begun,
    you: await passwordIsSet(sql, member.id),
    // It has none until somebody writes one.
    brand: sender.postalAddress !== "",
    delivery: told.delivery,
    elsewhere: services.config.smtp !== null,
  };
}

/** A message that says that messages arrive. */
function trial(fromName: string, fromAddress: string) {
  const blocks = [
    createBlock("heading", newId, { words: phrase("It arrived") }),
    createBlock("text", newId, {
      words: doc(
        "This message was sent to try how Septima hands emails over. Nothing is left to do.",
      ),
    }),
  ];
  return createDocument([createBand(newId, [createColumn(newId, blocks)])], {
    envelope: {
      fromName: line(fromName),
      fromAddress,
      replyTo: "",
      subject: line("Septima: a message to try the delivery"),
      preview: line("It arrived."),
    },
  });
}

/** Hands one message to the mail service, to a member. Gives what the service said against it, or null. */
export async function tryDelivery(services: Services, member: Member): Promise<string | null> {
  const { database, config, signer, mailer, clock } = services;
  const { sql } = database;
  const { sender } = await getSettings(sql);
  const message = trial(sender.fromName, sender.fromAddress);
  const email = compile(message, await surroundings(sql, config, message, clock.now()));
  const reader = { values: {}, token: "" };
  const [made] = testMessages(email, {
    to: [member.email],
    mark: "Test",
    reader,
    signer,
    newId,
    date: clock.now(),
  });
  const outcome = await mailer.send(made!);
  if (outcome.state !== "accepted") {
    return outcome.state === "refused"
      ? outcome.reply
      : "The line broke: nobody knows whether it arrived.";
  }
  await saveSetting(sql, "firstSteps", { delivery: true });
  return null;
}
