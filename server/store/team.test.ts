import { afterAll, beforeAll, expect, it } from "vitest";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { getSettings, saveSetting, senderSchema } from "./settings.ts";
import {
  addMember,
  checkPassword,
  createSession,
  createSignInLink,
  endSession,
  hasPassword,
  listMembers,
  memberOfSession,
  redeemSignInLink,
  setPassword,
  updateMember,
} from "./team.ts";

let database: Database;
const now = new Date("2026-03-02T10:00:00Z");
const days = (n: number) => new Date(now.getTime() + n * 86_400_000);
beforeAll(async () => {
  database = await openTestDatabase();
});
afterAll(() => database.close());

it("signs in by password, and by nothing like it", async () => {
  const { sql } = database;
  const ada = await addMember(
    sql,
    { name: "Ada", email: "Ada@Larkmoor.example", role: "owner" },
    now,
  );
  expect(await checkPassword(sql, "ada@larkmoor.example", "")).toBeNull();
  const [here, elsewhere] = [
    await createSession(sql, ada.id, now),
    await createSession(sql, ada.id, now),
  ];
  const link = await createSignInLink(sql, ada.id, now);
  expect(await hasPassword(sql, ada.id, "")).toBe(true);
  await setPassword(sql, ada.id, "a long password", here);
  expect(await hasPassword(sql, ada.id, "")).toBe(false);
  expect(await hasPassword(sql, ada.id, "a long password")).toBe(true);
  expect(await memberOfSession(sql, here, now)).not.toBeNull();
  expect(await memberOfSession(sql, elsewhere, now)).toBeNull();
  expect(await redeemSignInLink(sql, link, now)).toBeNull();
  expect(await checkPassword(sql, "ADA@larkmoor.example", "a long password")).toMatchObject({
    id: ada.id,
    role: "owner",
  });
  expect(await checkPassword(sql, "ada@larkmoor.example", "a long passwore")).toBeNull();
  expect(await checkPassword(sql, "nobody@larkmoor.example", "a long password")).toBeNull();
  // Changing the name keeps the password, and the hash is not the password.
  await updateMember(sql, ada.id, { name: "Ada B", email: ada.email });
  expect(await checkPassword(sql, ada.email, "a long password")).toMatchObject({ name: "Ada B" });
  const [row] = await sql<{ password: string }>`select password from members`;
  expect(row!.password).not.toContain("long");
});

it("uses a sign-in address up at once, and lets it grow old", async () => {
  const { sql } = database;
  const [member] = await listMembers(sql);
  const token = await createSignInLink(sql, member!.id, now);
  expect(await redeemSignInLink(sql, token, now)).toBe(member!.id);
  expect(await redeemSignInLink(sql, token, now)).toBeNull();
  const late = await createSignInLink(sql, member!.id, now);
  expect(await redeemSignInLink(sql, late, days(2))).toBeNull();
  expect(await redeemSignInLink(sql, "made up", now)).toBeNull();
});

it("keeps a session until it ends", async () => {
  const { sql } = database;
  const [member] = await listMembers(sql);
  const session = await createSession(sql, member!.id, now);
  expect(await memberOfSession(sql, session, days(29))).toMatchObject({ id: member!.id });
  expect(await memberOfSession(sql, session, days(31))).toBeNull();
  await endSession(sql, session);
  expect(await memberOfSession(sql, session, now)).toBeNull();
  // What the database keeps opens nothing by itself.
  const other = await createSession(sql, member!.id, now);
  const rows = await sql<{ id: string }>`select id from sessions`;
  expect(rows.map((row) => row.id)).not.toContain(other);
});

it("has settings from the start, and keeps what is saved", async () => {
  const { sql } = database;
  const before = await getSettings(sql);
  expect(before.sender.postalAddress).toBe("");
  await saveSetting(sql, "sender", { ...before.sender, postalAddress: "Brook Lane 7" });
  await saveSetting(sql, "sender", { ...before.sender, postalAddress: "Brook Lane 8" });
  expect((await getSettings(sql)).sender.postalAddress).toBe("Brook Lane 8");
});

it.each([
  ["fromAddress", "no address"],
  ["zone", "Europe/Larkmoor"],
  ["brandName", " "],
])("refuses a sender with a bad %s", (field, value) => {
  const sender = {
    brandName: "Larkmoor",
    fromName: "Larkmoor",
    fromAddress: "news@larkmoor.example",
    zone: "Europe/London",
    [field]: value,
  };
  const result = senderSchema.safeParse(sender);
  expect(result.error?.issues[0]?.path).toEqual([field]);
});
