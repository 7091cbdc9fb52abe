/** Saving each section of the settings. A new one is an entry here and a form on the page. */
import { data, type RouterContextProvider } from "react-router";
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "#server/db/database.ts";
import { DatabaseError } from "#server/db/database.ts";
import { sessionContext } from "#server/http/context.ts";
import { newSecret } from "#server/ids.ts";
import { pictureName } from "#server/store/pictures.ts";
import {
  addWord,
  getSettings,
  removeWord,
  saveSetting,
  senderSchema,
  sendingSchema,
} from "#server/store/settings.ts";
import {
  addMember,
  createSignInLink,
  hasPassword,
  listMembers,
  type Member,
  removeMember,
  setPassword,
  setRole,
  updateMember,
} from "#server/store/team.ts";
import { submissionOf } from "../form.ts";
import { at } from "../request.ts";
import {
  accountSchema,
  linksFormSchema,
  pagesFormSchema,
  teamSchema,
  webhookFormSchema,
  wordsFormSchema,
} from "./schemas.ts";

type Context = Readonly<RouterContextProvider>;

/** Owners say who is in the team; where there is none, everybody does. */
export const managesTeam = (member: Member, team: readonly Member[]): boolean =>
  member.role === "owner" || !team.some(({ role }) => role === "owner");

async function saveSender(form: FormData, context: Context) {
  const submission = await submissionOf(form, senderSchema);
  if (submission.status !== "success") return data({ result: submission.reply() }, 400);
  await saveSetting(at(context).sql, "sender", submission.value);
  return { result: submission.reply() };
}

async function saveSending(form: FormData, context: Context) {
  const submission = await submissionOf(form, sendingSchema);
  if (submission.status !== "success") return data({ result: submission.reply() }, 400);
  await saveSetting(at(context).sql, "sending", submission.value);
  return { result: submission.reply() };
}

async function savePages(form: FormData, context: Context) {
  const submission = await submissionOf(form, pagesFormSchema);
  if (submission.status !== "success") return data({ result: submission.reply() }, 400);
  const { sql } = at(context);
  const { logo, words } = submission.value;
  if (logo && (await pictureName(sql, logo)) === null) {
    return data({ result: submission.reply({ formErrors: ["This image is gone."] }) }, 409);
  }
  await saveSetting(sql, "pages", { logo: logo ?? null, words });
  return { result: submission.reply() };
}

async function saveWebhook(form: FormData, context: Context) {
  const submission = await submissionOf(form, webhookFormSchema);
  if (submission.status !== "success") return data({ result: submission.reply() }, 400);
  const { sql } = at(context);
  const { address } = submission.value;
  const before = (await getSettings(sql)).webhook;
  // The secret stays while somebody listens: whoever checks it knows it.
  const secret = before?.secret ?? newSecret();
  await saveSetting(sql, "webhook", address ? { address, secret } : null);
  return { result: submission.reply() };
}

async function saveLinks(form: FormData, context: Context) {
  const submission = await submissionOf(form, linksFormSchema);
  if (submission.status !== "success") return data({ result: submission.reply() }, 400);
  await saveSetting(at(context).sql, "linkParameters", submission.value.parameters);
  // The lines are those that are kept, and one more.
  return { result: submission.reply({ resetForm: true }) };
}

/** Adds a word to those of the house. Gives what is wrong, or null. */
export async function addOwnWord(sql: Sql, word: string): Promise<string | null> {
  if ((await getSettings(sql)).words.length >= LIMITS.ownWords) {
    return `There are ${LIMITS.ownWords} words already.`;
  }
  await addWord(sql, word);
  return null;
}

async function saveWords(form: FormData, context: Context) {
  const submission = await submissionOf(form, wordsFormSchema);
  if (submission.status !== "success") return data({ result: submission.reply() }, 400);
  const { sql } = at(context);
  const { do: what, word } = submission.value;
  if (what === "remove") await removeWord(sql, word);
  else {
    const problem = await addOwnWord(sql, word);
    if (problem) {
      return data({ result: submission.reply({ fieldErrors: { word: [problem] } }) }, 409);
    }
  }
  return { result: submission.reply({ resetForm: true }) };
}

async function saveAccount(form: FormData, context: Context) {
  const { sql, member } = at(context);
  const submission = await submissionOf(form, accountSchema);
  const hideFields = ["password", "current"];
  if (submission.status !== "success") {
    return data({ result: submission.reply({ hideFields }) }, 400);
  }
  const refuse = (fieldErrors: Record<string, string[]>) =>
    data({ result: submission.reply({ fieldErrors, hideFields }) }, 400);
  const { password, current = "", ...rest } = submission.value;
  if (password && !(await hasPassword(sql, member.id, current))) {
    return refuse({ current: ["This is not your password."] });
  }
  try {
    await updateMember(sql, member.id, rest);
  } catch (error) {
    if (!(error instanceof DatabaseError && error.code === "23505")) throw error;
    return refuse({ email: ["Somebody else signs in with this address."] });
  }
  if (password) await setPassword(sql, member.id, password, context.get(sessionContext));
  return { result: submission.reply({ hideFields }) };
}

async function saveTeam(form: FormData, context: Context) {
  const submission = await submissionOf(form, teamSchema);
  if (submission.status !== "success") return data({ result: submission.reply() }, 400);
  const { services, sql, member, now } = at(context);
  const team = await listMembers(sql);
  const refuse = (problem: string, status: number) =>
    data({ result: submission.reply({ formErrors: [problem] }) }, status);
  if (!managesTeam(member, team)) return refuse("Only an owner says who is in the team.", 403);
  /** An address that signs somebody in, once. */
  const addressOf = async ({ id, name }: Pick<Member, "id" | "name">) => {
    const token = await createSignInLink(sql, id, now);
    const url = `${services.config.publicAddress}/sign-in/${token}`;
    return { result: submission.reply({ resetForm: true }), address: { name, url } };
  };
  const asked = submission.value;
  if (asked.do === "invite") {
    const { name, email, role } = asked;
    try {
      return await addressOf(await addMember(sql, { name, email, role }, now));
    } catch (error) {
      if (!(error instanceof DatabaseError && error.code === "23505")) throw error;
      const fieldErrors = { email: ["Somebody in the team signs in with this address."] };
      return data({ result: submission.reply({ fieldErrors }) }, 409);
    }
  }
  const who = team.find(({ id }) => id === asked.member);
  if (!who) return refuse("They are not in the team any more.", 404);
  if (asked.do === "address") return addressOf(who);
  const owners = team.filter(({ role }) => role === "owner");
  const last = who.role === "owner" && owners.length === 1;
  if (asked.do === "role") {
    if (last && asked.role !== "owner") return refuse("The team needs an owner.", 409);
    await setRole(sql, who.id, asked.role);
  } else {
    if (who.id === member.id) return refuse("Somebody else has to take you out.", 409);
    if (last) return refuse("The team needs an owner.", 409);
    await removeMember(sql, who.id, now);
  }
  return { result: submission.reply({ resetForm: true }) };
}

const SECTIONS = {
  sender: saveSender,
  sending: saveSending,
  webhook: saveWebhook,
  links: saveLinks,
  words: saveWords,
  pages: savePages,
  account: saveAccount,
  team: saveTeam,
} as const;
export type Section = keyof typeof SECTIONS;

/** Saves the section a form belongs to. */
export async function saveSection(form: FormData, context: Context) {
  const asked = String(form.get("what"));
  const what = Object.keys(SECTIONS).find((one) => one === asked) as Section | undefined;
  if (!what) throw data("There is no such section.", { status: 400 });
  const saved = await SECTIONS[what](form, context);
  return "init" in saved
    ? data({ what, ...saved.data }, saved.init ?? undefined)
    : data({ what, ...saved });
}
