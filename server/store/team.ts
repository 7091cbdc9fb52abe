/** People of the team, their passwords and sessions. */
import { createHash, randomBytes, scrypt, timingSafeEqual } from "node:crypto";
import { promisify } from "node:util";
import { LIMITS } from "#core/limits.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";

export type Role = "owner" | "designer" | "marketer" | "reviewer";
/** Who may change templates may change what they hold. */
export const liftsHolds = ({ role }: { readonly role: Role }): boolean =>
  role === "owner" || role === "designer";
export interface Member {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
}

const derive = promisify(scrypt) as (
  password: string,
  salt: Buffer,
  length: number,
) => Promise<Buffer>;
const HASH_BYTES = 32;

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const hash = await derive(password, salt, HASH_BYTES);
  return `${salt.toString("base64url")}:${hash.toString("base64url")}`;
}

async function passwordFits(password: string, stored: string): Promise<boolean> {
  const [salt, hash] = stored.split(":").map((part) => Buffer.from(part, "base64url"));
  return timingSafeEqual(await derive(password, salt!, HASH_BYTES), hash!);
}

const hashToken = (token: string) => createHash("sha256").update(token).digest("base64url");

/** Takes somebody into the team, or back into it. Throws a DatabaseError (23505) where the address is taken. */
export async function addMember(sql: Sql, member: Omit<Member, "id">, now: Date): Promise<Member> {
  const { name, role } = member;
  const email = member.email.toLowerCase();
  const back = first(
    await sql<{ id: string }>`update members
      set name = ${name}, role = ${role}, password = null, removed_at = null
      where email = ${email} and removed_at is not null returning id`,
  );
  const id = back?.id ?? newId();
  if (!back) {
    await sql`insert into members (id, name, email, role, created_at)
      values (${id}, ${name}, ${email}, ${role}, ${now})`;
  }
  return { id, ...member };
}

export const listMembers = (sql: Sql): Promise<Member[]> =>
  sql<Member>`select id, name, email, role from members where removed_at is null order by created_at, name, id`;

/** Gives a member another role. */
export async function setRole(sql: Sql, id: string, role: Role): Promise<void> {
  await sql`update members set role = ${role} where id = ${id} and removed_at is null`;
}

/** Takes somebody out of the team: they are signed out, and their links are no use any more. */
export async function removeMember(sql: Sql, id: string, now: Date): Promise<void> {
  await sql`with gone as (update members set removed_at = ${now} where id = ${id} returning id),
      links as (delete from sign_in_links l using gone where l.member_id = gone.id)
    delete from sessions s using gone where s.member_id = gone.id`;
}

/** Changes a person's own name and address. */
export async function updateMember(
  sql: Sql,
  id: string,
  change: { name: string; email: string },
): Promise<void> {
  await sql`update members set name = ${change.name}, email = ${change.email.toLowerCase()}
    where id = ${id}`;
}

/** Whether a person has a password at all. */
export const passwordIsSet = async (sql: Sql, id: string): Promise<boolean> =>
  (await sql`select 1 from members where id = ${id} and password is not null`).length > 0;

/** Whether a person's password is this one; who has none yet has none to tell. */
export async function hasPassword(sql: Sql, id: string, password: string): Promise<boolean> {
  const row = first(
    await sql<{ password: string | null }>`select password from members where id = ${id}`,
  );
  return row?.password ? passwordFits(password, row.password) : row !== null;
}

/** Gives a person another password: all sessions end but this one, and links to sign in with are no use any more. */
export async function setPassword(
  sql: Sql,
  id: string,
  password: string,
  session: string,
): Promise<void> {
  const hash = await hashPassword(password);
  await sql`with changed as (
      update members set password = ${hash} where id = ${id} returning id
    ), links as (
      delete from sign_in_links where member_id = ${id} and used_at is null
    )
    delete from sessions s using changed where s.member_id = changed.id and s.id <> ${hashToken(session)}`;
}

/** The person an address and password belong to, or null. Takes as long either way. */
export async function checkPassword(
  sql: Sql,
  email: string,
  password: string,
): Promise<Member | null> {
  const row = first(
    await sql<Member & { password: string | null }>`
      select id, name, email, role, password from members
      where email = ${email.toLowerCase()} and removed_at is null`,
  );
  const stored = row?.password ?? (await NOBODY);
  const fits = await passwordFits(password, stored);
  if (!row?.password || !fits) return null;
  const { password: _password, ...member } = row;
  return member;
}
const NOBODY = hashPassword(randomBytes(16).toString("hex"));

/** A one-time token that signs a person in. */
export async function createSignInLink(sql: Sql, memberId: string, now: Date): Promise<string> {
  const token = randomBytes(24).toString("base64url");
  const expires = new Date(now.getTime() + 24 * 3_600_000);
  await sql`insert into sign_in_links (token_hash, member_id, expires_at)
    values (${hashToken(token)}, ${memberId}, ${expires})`;
  return token;
}

/** Uses a sign-in token up; gives the person, or null when it is unknown, used or too old. */
export async function redeemSignInLink(sql: Sql, token: string, now: Date): Promise<string | null> {
  const row = first(
    await sql<{ member_id: string }>`
      update sign_in_links l set used_at = ${now}
      where token_hash = ${hashToken(token)} and used_at is null and expires_at > ${now}
        and exists (select 1 from members m where m.id = l.member_id and m.removed_at is null)
      returning member_id`,
  );
  return row?.member_id ?? null;
}

export async function createSession(sql: Sql, memberId: string, now: Date): Promise<string> {
  const id = randomBytes(24).toString("base64url");
  const expires = new Date(now.getTime() + LIMITS.sessionDays * 86_400_000);
  await sql`insert into sessions (id, member_id, created_at, expires_at)
    values (${hashToken(id)}, ${memberId}, ${now}, ${expires})`;
  return id;
}

export async function memberOfSession(sql: Sql, id: string, now: Date): Promise<Member | null> {
  return first(
    await sql<Member>`
      select m.id, m.name, m.email, m.role from sessions s join members m on m.id = s.member_id
      where s.id = ${hashToken(id)} and s.expires_at > ${now} and m.removed_at is null`,
  );
}

export async function endSession(sql: Sql, id: string): Promise<void> {
  await sql`delete from sessions where id = ${hashToken(id)}`;
}
