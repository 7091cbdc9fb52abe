/** Loaders and actions of the studio: what they do with good input, and what they say to bad. */
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { find } from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import type { Seen } from "#server/campaigns/sights.ts";
import { getCampaign } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { pageOfMessages } from "#server/store/outbox.ts";
import { addMember } from "#server/store/team.ts";
import { setTopic } from "#server/store/topics.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { type Asked, answered as reply, routeArgs } from "../testing/route.ts";
import { loader as findContacts } from "./api.contacts.ts";
import { loader as getDraft, action as postDraft } from "./api.draft.ts";
import { loader as getEdits, action as postEdits } from "./api.edits.ts";
import { loader as follow } from "./api.follow.ts";
import { loader as getHistory } from "./api.history.ts";
import { action as uploadPicture } from "./api.pictures.ts";
import { loader as getSights } from "./api.sights.ts";
import { loader as proof, action as sendTest } from "./campaign.proof.tsx";
import { action as setReaders } from "./campaign.readers.tsx";
import { action as schedule, loader as schedulePage } from "./campaign.schedule.tsx";
import { action as newCampaign } from "./campaigns.new.tsx";
import { action as saveSettings } from "./settings.tsx";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
beforeAll(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@example.org", "two@example.org"]);
});
afterAll(() => services.close());

const args = (asked: Asked, campaign = made.campaign.id) =>
  routeArgs(services, made.member, asked, { campaign });
interface Reply {
  error?: Record<string, string[]>;
  initialValue?: Record<string, string>;
  result?: { error?: Record<string, string[]>; initialValue?: Record<string, string> };
  problem?: string;
}
const answered = (answer: unknown) => reply<Reply>(answer);

describe("a new campaign", () => {
  it("asks for a name and keeps what was chosen", async () => {
    const reply = answered(await newCampaign(args({ form: { name: " ", from: "blank" } })));
    expect(reply.status).toBe(400);
    expect(reply.error?.name).toEqual(["Give it a name that you will find again."]);
    expect(reply.initialValue).toMatchObject({ from: "blank" });
  });
  it("says when what it starts from is gone", async () => {
    const reply = answered(await newCampaign(args({ form: { name: "x", from: "template:gone" } })));
    expect(reply.error?.from).toEqual(["That is gone."]);
    const odd = answered(await newCampaign(args({ form: { name: "x", from: "nonsense" } })));
    expect(odd.error?.from).toEqual(["Choose what to start from."]);
  });
  it("starts with the sender of the settings, and from an earlier one with its readers", async () => {
    const { sql } = services.database;
    const open = async (form: Record<string, string>) => {
      const answer = (await newCampaign(args({ form }))) as Response;
      const id = answer.headers.get("location")!.split("/").at(-1)!;
      const campaign = (await getCampaign(sql, id))!;
      return { campaign, doc: (await loadDocument(sql, campaign.documentId))!.doc };
    };
    const blank = await open({ name: "Blank", from: "blank" });
    expect(JSON.stringify(blank.doc.root.props.envelope)).toContain("news@larkmoor.example");
    expect(blank.campaign.audience.include).toEqual([]);
    await sql`insert into topics (id, name, about, position, created_at)
      values ('walks', '{"en":"Walks"}'::jsonb, '{}'::jsonb, 1, now()) on conflict do nothing`;
    await setTopic(sql, made.campaign.id, "walks");
    const again = await open({ name: "Again", from: `campaign:${made.campaign.id}` });
    // Who has left its topic is not mailed by a campaign that starts from it either.
    expect(again.campaign.topic).toBe("walks");
    await setTopic(sql, made.campaign.id, null);
    expect(again.campaign.audience).toEqual(made.campaign.audience);
    expect(again.doc.root.children).toHaveLength(1);
  });
});

describe("readers", () => {
  it("are set from the choice, and a list that is gone is named", async () => {
    const gone = answered(await setReaders(args({ form: { "list:gone": "include" } })));
    expect(gone).toMatchObject({ status: 400, problem: "One of these lists or segments is gone." });
    const form = { [`list:${made.list}`]: "include", "segment:x": "none" };
    expect(await setReaders(args({ form }))).toEqual({ problem: null });
  });
});

describe("a test", () => {
  it("names addresses that are wrong and keeps them", async () => {
    const to = "good@example.org, bad@, worse";
    const { status, result } = answered(await sendTest(args({ form: { to } })));
    expect(status).toBe(400);
    expect(result?.error?.to).toEqual(["“bad@”, “worse” are not mail addresses."]);
    expect(result?.initialValue?.to).toBe(to);
    const many = Array.from({ length: 11 }, (_, i) => `a${i}@example.org`).join(" ");
    const tooMany = answered(await sendTest(args({ form: { to: many } })));
    expect(tooMany.result?.error?.to).toEqual(["At most 10 addresses at once."]);
  });
  it("goes out as the chosen reader, and tells who refused", async () => {
    const reader = String(made.contacts[1]);
    expect(await sendTest(args({ form: { to: "me@example.org", reader } }))).toMatchObject({
      sent: 1,
    });
    const { messages } = await pageOfMessages(services.database.sql, "me@example.org", 1);
    expect(messages[0]!.subject).toBe("[Test] Hello friend");
    const refused = answered(await sendTest(args({ form: { to: "bounce@example.org" } })));
    expect(refused.result?.error?.to?.[0]).toContain("bounce@example.org was not taken");
    const page = await proof(args({ path: `/?reader=${reader}` }));
    const sights = await getSights(args({ path: `/?contacts=${reader}` }));
    const { sights: seen } = (await sights.json()) as Seen;
    expect(seen).toMatchObject([{ subject: "Hello friend", looked: false }]);
    expect(page.tests.map((test) => test.failed.length)).toEqual([1, 0]);
    expect(await page.findings).toEqual([]);
  });
});

describe("scheduling", () => {
  it("refuses what is past or incomplete at its field", async () => {
    const past = { when: "later", date: "2020-01-01", time: "09:00", zone: "Europe/London" };
    const reply = answered(await schedule(args({ form: past })));
    expect(reply.status).toBe(409);
    expect(reply.error?.date?.[0]).toContain("This time has passed");
    expect(reply.initialValue).toMatchObject({ date: "2020-01-01", time: "09:00" });
    const bad = { when: "later", date: "soon", time: "25:00", zone: "Nowhere" };
    const { error } = answered(await schedule(args({ form: bad })));
    expect(Object.keys(error!).sort()).toEqual(["date", "time", "zone"]);
    const none = answered(await schedule(args({ form: { when: "later" } })));
    expect(Object.keys(none.error!).sort()).toEqual(["date", "time", "zone"]);
  });
  it("reads a time in its zone, and calls back", async () => {
    const form = { when: "later", date: "2026-07-01", time: "09:00", zone: "America/New_York" };
    await schedule(args({ form }));
    const campaign = (await getCampaign(services.database.sql, made.campaign.id))!;
    expect(campaign.sendAt?.toISOString()).toBe("2026-07-01T13:00:00.000Z");
    const page = await schedulePage(args({}));
    expect(page.state).toBe("scheduled");
    expect(await page.found).toMatchObject({ readers: 2 });
    expect(page.leaves).toContain("1 July 2026, 9:00");
    expect(await schedule(args({ form: { what: "cancel" } }))).toBeNull();
    const late = answered(await schedule(args({ form: { what: "cancel" } })));
    expect(late.error?.[""]?.[0]).toContain("too late");
  });
});

describe("settings", () => {
  it("refuse a bad sender and password at the field", async () => {
    const sender = {
      what: "sender",
      brandName: "L",
      fromName: "L",
      fromAddress: "no",
      zone: "Europe/London",
    };
    const one = answered(await saveSettings(args({ form: sender })));
    expect(one.result?.error?.fromAddress).toEqual(["This is not a mail address."]);
    const account = {
      what: "account",
      name: "Ines",
      email: "ines@larkmoor.example",
      password: "short",
    };
    const three = answered(await saveSettings(args({ form: account })));
    expect(three.result?.error?.password).toEqual(["At least 10 characters."]);
    // A password never goes back to the page.
    expect(JSON.stringify(three)).not.toContain("short");
  });
  it("keep what is good, and one address for one person", async () => {
    const { sql } = services.database;
    await addMember(
      sql,
      { name: "Bo", email: "bo@larkmoor.example", role: "marketer" },
      services.clock.now(),
    );
    const account = { what: "account", name: "Ines", email: "bo@larkmoor.example" };
    const taken = answered(await saveSettings(args({ form: account })));
    expect(taken.result?.error?.email).toEqual(["Somebody else signs in with this address."]);
  });
});

describe("what the screens fetch", () => {
  const post = async (body: string) => {
    const answer = await postEdits(args({ body }));
    return { status: answer.status, ...(await answer.json()) };
  };
  it("edits: refuses what cannot be read", async () => {
    const empty = '{"tab":"tab-1","base":0,"changes":[]}';
    for (const body of ["", "{", "[]", empty, '{"do":"explode"}']) {
      expect(await post(body)).toMatchObject({ status: 409, problem: "refused", edits: [] });
    }
    expect((await post(`"${"x".repeat(4_000_001)}"`)).message).toContain("too large");
  });
  it("edits: are told to whoever follows", async () => {
    const leaving = new AbortController();
    const stream = await follow(args({ path: "/?since=0", signal: leaving.signal }));
    const reader = stream.body!.getReader();
    const edit = { type: "set", node: "n1", path: ["type", "size"], value: 20 };
    const change = { id: "envelope-1", edit, does: "do", step: "envelope-1", of: null };
    const asked = JSON.stringify({ tab: "tab-1", base: 0, changes: [change] });
    expect(await post(asked)).toMatchObject({
      status: 200,
      seq: 1,
      edits: [{ seq: 1, does: "do" }],
    });
    const mine = await getHistory(args({ path: "/?mine" }));
    expect(await mine.json()).toMatchObject([
      { seq: 1, step: "envelope-1", inverse: { type: "set" } },
    ]);
    let heard = "";
    while (!heard.includes("envelope-1")) {
      heard += new TextDecoder().decode((await reader.read()).value);
    }
    leaving.abort();
    expect(stream.headers.get("content-type")).toBe("text/event-stream");
    const since = await getEdits(args({ path: "/?since=0" }));
    expect(await since.json()).toMatchObject([{ seq: 1, id: "envelope-1" }]);
  });
  it("contacts: by search and by step", async () => {
    const find = async (path: string) =>
      ((await (await findContacts(args({ path }))).json()) as { contacts: { name: string }[] })
        .contacts;
    expect((await find("/?search=two")).map((c) => c.name)).toEqual(["two@example.org"]);
    expect((await find("/?to=next")).map((c) => c.name)).toEqual(["Reader 0"]);
    expect(await find(`/?to=next&from=${made.contacts[1]}`)).toEqual([]);
    expect((await findContacts(args({ path: "/?to=sideways" }))).status).toBe(400);
  });
  it("pictures: takes pictures only", async () => {
    const upload = async (file: Blob | null) => {
      const body = new FormData();
      if (file) body.set("file", file, "flower.png");
      const answer = await uploadPicture(args({ body }));
      return (await answer.json()) as { picture?: { name: string }; error?: string };
    };
    expect((await upload(null)).error).toBe("Choose an image.");
    expect((await upload(new Blob(["<svg onload=x>"]))).error).toContain("could not be read");
    const png = await sharp({ create: { width: 9, height: 9, channels: 3, background: "#123456" } })
      .png()
      .toBuffer();
    expect((await upload(new Blob([new Uint8Array(png)]))).picture).toMatchObject({
      name: "flower.png",
    });
  });
  it("nothing of a campaign that is gone", async () => {
    await expect(proof(args({}, "gone"))).rejects.toMatchObject({ init: { status: 404 } });
    await expect(getEdits(args({}, "gone"))).rejects.toMatchObject({ init: { status: 404 } });
  });
});

describe("once the sending has begun", () => {
  const change = (id: string) => {
    const edit = { type: "set", node: "n1", path: ["type", "size"], value: 26 };
    return { id, edit, does: "do", step: id, of: null };
  };
  const ask = async (action: typeof postDraft | typeof postEdits, body: unknown) => {
    const answer = (await action(args({ body: JSON.stringify(body) }))) as Response;
    const said = (await answer.json()) as { problem?: string; message?: string; campaign?: string };
    return { status: answer.status, ...said };
  };
  const setState = (state: string) =>
    services.database
      .sql`update launches set state = ${state} where campaign_id = ${made.campaign.id}`;
  it("edits, readers, and the draft's bar say so; what was on its way becomes a campaign of its own", async () => {
    const { sql } = services.database;
    const { seq, doc } = (await loadDocument(sql, made.campaign.documentId))!;
    await sql`insert into launches (id, campaign_id, state, send_at, zone, document, audience, segments, surroundings,
        member_id, created_at)
      values ('late', ${made.campaign.id}, 'sending', now(), 'UTC', ${canonical(doc)},
        ${JSON.stringify(made.campaign.audience)}::jsonb, '[]'::jsonb, '{}'::jsonb, ${made.member.id}, now() + interval '1 day')`;
    const refused = await ask(postEdits, {
      tab: "tab-9",
      base: seq,
      changes: [change("late-change")],
    });
    expect(refused).toMatchObject({ status: 409, problem: "fixed" });
    const form = { [`list:${made.list}`]: "exclude" };
    expect(answered(await setReaders(args({ form })))).toMatchObject({ status: 409 });
    for (const what of ["replace", "discard"]) {
      const answer = await ask(postDraft, { do: what });
      expect(answer).toMatchObject({
        status: 409,
        message: expect.stringContaining("not scheduled"),
      });
    }
    const looked = (await getDraft(args({}))) as Response;
    expect(await looked.json()).toMatchObject({ draft: null });
    const apart = await ask(postDraft, { do: "apart", changes: [change("late-change")] });
    const own = (await getCampaign(sql, String(apart.campaign)))!;
    const email = (await loadDocument(sql, own.documentId))!;
    expect(email.seq).toBe(1);
    expect(find(email.doc, "n1")!.node.props.type).toMatchObject({ size: 26 });
    expect(own.audience).toEqual((await getCampaign(sql, made.campaign.id))!.audience);
    expect(await ask(postDraft, { do: "explode" })).toMatchObject({ status: 400 });
    await setState("cancelled");
  });
});
