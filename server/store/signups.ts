/** Sign-up forms, and who has asked by one and not confirmed yet. */
import { createHash, randomBytes } from "node:crypto";
import { z } from "zod";
import type { Json } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import type { Language } from "#core/phrases/index.ts";
import { fragment } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { newId } from "../ids.ts";
import { lastClickSql } from "./last-click.ts";

export interface SignupForm {
  readonly id: string;
  readonly name: string;
  readonly language: Language;
  readonly list: string | null;
  readonly title: string;
  /** What people say yes to. */
  readonly wording: string;
  readonly fields: readonly string[];
  readonly topics: readonly string[];
}

const strings = z.array(z.string());
type Row = Omit<SignupForm, "fields" | "topics"> & { fields: unknown; topics: unknown };
const readRow = (row: Row): SignupForm => ({
  ...row,
  fields: strings.parse(row.fields),
  topics: strings.parse(row.topics),
});

export async function getForms(sql: Sql): Promise<SignupForm[]> {
  const rows =
    await sql<Row>`select id, name, language, list_id as list, title, wording, fields, topics
    from signup_forms order by created_at, name, id`;
  return rows.map(readRow);
}

export const getForm = async (sql: Sql, id: string): Promise<SignupForm | null> =>
  (await getForms(sql)).find((form) => form.id === id) ?? null;

export async function saveForm(
  sql: Sql,
  id: string | null,
  form: Omit<SignupForm, "id">,
  now: Date,
): Promise<string> {
  const key = id ?? newId();
  await sql`insert into signup_forms (id, name, language, list_id, title, wording, fields, topics, created_at)
    values (${key}, ${form.name}, ${form.language}, ${form.list}, ${form.title}, ${form.wording},
      ${jsonb(form.fields)}, ${jsonb(form.topics)}, ${now})
    on conflict (id) do update set name = excluded.name, language = excluded.language,
      list_id = excluded.list_id, title = excluded.title, wording = excluded.wording,
      fields = excluded.fields, topics = excluded.topics`;
  return key;
}

export interface Signup {
  readonly form: string;
  readonly email: string;
  readonly values: Record<string, Json>;
  readonly topics: readonly string[];
  readonly wording: string;
  readonly at: Date;
}

const hash = (token: string) => createHash("sha256").update(token).digest("base64url");

/** Keeps that somebody asked; gives the token that confirms it. */
export async function addSignup(sql: Sql, signup: Signup): Promise<string> {
  const token = randomBytes(24).toString("base64url");
  const expires = new Date(signup.at.getTime() + LIMITS.signupDays * 86_400_000);
  await sql`insert into signups (token_hash, form_id, email, values, topics, wording, at, expires_at)
    values (${hash(token)}, ${signup.form}, ${signup.email}, ${jsonb(signup.values)},
      ${jsonb(signup.topics)}, ${signup.wording}, ${signup.at}, ${expires})`;
  return token;
}

/** How often an address has asked since a moment. */
export const countSignups = async (sql: Sql, email: string, since: Date): Promise<number> =>
  first(
    await sql<{ n: number }>`select count(*)::int as n from signups
      where email = ${email} and at > ${since}`,
  )!.n;

/** What a token would confirm; null where it is used, too old or none. */
export async function pendingSignup(sql: Sql, token: string, now: Date): Promise<Signup | null> {
  return first(
    await sql<Signup>`select form_id as form, email, values, topics, wording, at from signups
      where token_hash = ${hash(token)} and confirmed_at is null and expires_at > ${now}`,
  );
}

/** Notes who has confirmed, and the email that it is put down to: in which they clicked last in so many days before. */
export async function noteSignup(
  sql: Sql,
  token: string,
  contact: number,
  days: number,
): Promise<void> {
  await sql`update signups s set contact_id = ${contact},
      launch_id = (select k.launch_id from (${lastClickSql(fragment`${contact}::bigint`, fragment`s.at`, days)}) k)
    where token_hash = ${hash(token)}`;
}

/** How many people signed up after a click in a launch. */
export const signedUpAfter = async (sql: Sql, launch: string): Promise<number> =>
  first(
    await sql<{ n: number }>`select count(distinct contact_id)::int as n from signups
      where launch_id = ${launch}`,
  )!.n;

/** Uses a token up. Gives whether it was still there. */
export async function spendSignup(sql: Sql, token: string, now: Date): Promise<boolean> {
  const rows = await sql`update signups set confirmed_at = ${now}
    where token_hash = ${hash(token)} and confirmed_at is null and expires_at > ${now} returning 1`;
  return rows.length > 0;
}
