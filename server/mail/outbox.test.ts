import { simpleParser } from "mailparser";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { prepare, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import {
  launchMessage,
  messageIdOf,
  readyLaunch,
  surroundings,
  testMessages,
} from "../campaigns/emails.ts";
import { acceptedIds, messageSource, pageOfMessages } from "../store/outbox.ts";
import { testMessage } from "../testing/message.ts";
import { smallNewsletter } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { createMailer } from "./mailer.ts";
import type { Message } from "./message.ts";
import { answerTo } from "./outbox.ts";

let services: TestServices;
let n = 0;
beforeAll(async () => {
  services = await startTestServices();
});
afterAll(() => services.close());

const message = (change: Partial<Message> = {}) =>
  testMessage({
    messageId: `${Math.random().toString(36).slice(2)}@larkmoor.example`,
    date: services.clock.now(),
    ...change,
  });
async function latest() {
  const { messages } = await pageOfMessages(services.database.sql, "", 1);
  const source = await messageSource(services.database.sql, messages[0]!.id);
  return { row: messages[0]!, parsed: source && (await simpleParser(source)), source };
}

describe("the outbox", () => {
  it("answers by plain rules of the address", () => {
    expect(answerTo("one@example.org")).toBeNull();
    expect(answerTo("bouncer@example.org")).toBeNull();
    expect(answerTo("Bounce@example.org")?.code).toBe(550);
    expect(answerTo("bounce+tarn@example.net")?.code).toBe(550);
    expect(answerTo("later@example.org")?.code).toBe(451);
  });

  it("keeps what it accepts, byte for byte, and says which ids it has", async () => {
    const sent = message({ subject: "Grüße aus dem Garten 🌱", text: "ä".repeat(200) });
    expect(await services.mailer.send(sent)).toMatchObject({ state: "accepted" });
    const { row, parsed, source } = await latest();
    expect(row).toMatchObject({
      outcome: "accepted",
      to: "one@example.org",
      messageId: sent.messageId,
    });
    expect(row.subject).toBe(sent.subject);
    expect(parsed!.text!.trim()).toBe(sent.text);
    expect(source!.length).toBe(row.bytes);
    const ids = await acceptedIds(services.database.sql, [sent.messageId, "other@example.org"]);
    expect([...ids]).toEqual([sent.messageId]);
  });

  it("writes refusals down too", async () => {
    expect(
      await services.mailer.send(message({ to: { name: "", address: "bounce@example.org" } })),
    ).toMatchObject({
      state: "refused",
      verdict: { kind: "reader", gone: true },
    });
    expect((await latest()).row).toMatchObject({ outcome: "refused", to: "bounce@example.org" });
    expect(
      await services.mailer.send(message({ to: { name: "", address: "later@example.org" } })),
    ).toMatchObject({
      state: "refused",
      verdict: { kind: "reader", lasting: false },
    });
    expect((await latest()).row.outcome).toBe("deferred");
  });

  it("finds messages by address and subject, and nothing by a wildcard", async () => {
    const { sql } = services.database;
    await services.mailer.send(
      message({ to: { name: "", address: "find.me@example.net" }, subject: "Needle" }),
    );
    expect((await pageOfMessages(sql, "FIND.ME", 1)).total).toBe(1);
    expect((await pageOfMessages(sql, "needle", 1)).total).toBe(1);
    expect((await pageOfMessages(sql, "%", 1)).total).toBe(0);
  });
});

describe("the mailer", () => {
  it("lets no line break into a header", async () => {
    const evil = "x\r\nBcc: everybody@example.org\r\n\r\n<b>";
    await services.mailer.send(
      message({
        subject: evil,
        from: { name: evil, address: "news@larkmoor.example" },
        listId: "list.example",
      }),
    );
    const { parsed } = await latest();
    expect(parsed!.bcc).toBeUndefined();
    expect(parsed!.headers.get("bcc")).toBeUndefined();
    expect(parsed!.text!.trim()).toBe("Hi");
  });

  it("shows words that look like encoded ones as they are written", async () => {
    const evil = "=?utf-8?B?RnJlZSBtb25leQ==?= for you";
    await services.mailer.send(
      message({ subject: evil, from: { name: evil, address: "news@larkmoor.example" } }),
    );
    const { parsed } = await latest();
    for (const shown of [parsed!.subject!, parsed!.from!.value[0]!.name]) {
      expect(shown.replaceAll("\u2060", "")).toBe(evil);
      expect(shown).not.toContain("Free money");
    }
  });

  it("waits where no service answers", async () => {
    const nobody = createMailer("smtp://127.0.0.1:9", services.mailKeys);
    expect(await nobody.send(message())).toMatchObject({
      state: "refused",
      verdict: { kind: "connection" },
    });
    nobody.close();
  });
});

describe("a reader's message", () => {
  it("has the parts and headers that a newsletter needs", async () => {
    const { database, config, signer, clock } = services;
    const launch = {
      id: "launch",
      campaignId: "campaign",
      doc: smallNewsletter(),
      surroundings: await surroundings(
        database.sql,
        config,
        smallNewsletter(),
        services.clock.now(),
      ),
      links: null,
      variant: 0,
      conditions: [],
      name: "A letter",
      day: "2026-03-02",
    };
    const token = signer.sign({ kind: "message", recipient: 7 });
    const reader = { values: { "contact:first_name": "Zoë\r\nBcc: x@example.org" }, token };
    const made = launchMessage(
      launch,
      { id: 7, email: "zoe@example.org" },
      reader,
      services,
      clock.now(),
    );
    expect(made.messageId).toBe(messageIdOf("launch", 7, "larkmoor.example"));
    expect(made.subject).toBe("Hello Zoë Bcc: x@example.org");
    expect(await services.mailer.send(made)).toMatchObject({ state: "accepted" });
    const { parsed, source } = await latest();
    const headers = source!.toString().split("\r\n\r\n")[0]!;
    expect(headers).toMatch(/^Content-Type: multipart\/alternative/m);
    expect(headers).toMatch(/^List-ID: <campaign\.127\.0\.0\.1>/m);
    expect(headers).toContain(`/u/${token}>`);
    expect(parsed!.html).toContain(`/c/${token}/1`);
    expect(parsed!.html).toContain(`/o/${token}.gif`);
    expect(parsed!.text).toContain("Dear Zoë Bcc: x@example.org, welcome.");
    expect(source!.toString()).toMatch(/^Content-Type: text\/plain; charset=utf-8; format=flowed/m);
    expect(source!.toString().indexOf("text/plain")).toBeLessThan(
      source!.toString().indexOf("text/html"),
    );
    // Made again, it is the same.
    const again = launchMessage(
      launch,
      { id: 7, email: "zoe@example.org" },
      reader,
      services,
      clock.now(),
    );
    expect(again.html).toEqual(made.html);
    expect(readyLaunch(launch, signer)).toBe(readyLaunch(launch, signer));
  });

  it("is marked when it is a test, and counts nothing", async () => {
    const { database, config, clock } = services;
    const around = await surroundings(
      database.sql,
      config,
      smallNewsletter(),
      services.clock.now(),
    );
    const compiled = compile(smallNewsletter(), around);
    const reader = { values: {}, token: "s1" };
    const to = ["me@example.org", "you@example.org"];
    const [made, other] = testMessages(compiled, {
      to,
      mark: "Test",
      reader,
      signer: services.signer,
      newId: () => `${++n}`,
      date: clock.now(),
    });
    expect([made!.to, other!.to].map(({ address }) => address)).toEqual(to);
    expect(made!.messageId).not.toBe(other!.messageId);
    expect(made!.subject).toBe("[Test] Hello friend");
    expect(made!.unsubscribe).toBeNull();
    const html = made!.html.toString();
    expect(html).toContain('href="https://larkmoor.example/visit"');
    expect(html).not.toContain("/o/");
    expect(
      prepare(compiled, { links: "direct", marks: false, sign: unsigned }).html.gaps.length,
    ).toBeGreaterThan(0);
  });
});

describe("an outbox that is told to be unwell", () => {
  it.each([
    ["defers", "refused", "450"],
    ["refuses", "refused", "554"],
    ["cuts", "unsure", ""],
    ["dead", "refused", "421"],
    ["slow", "accepted", "250"],
  ] as const)("%s", async (mood, state, begins) => {
    const services = await startTestServices();
    try {
      services.outboxMoods.is = mood;
      const answer = await services.mailer.send(testMessage());
      expect([answer.state, answer.reply.startsWith(begins)]).toEqual([state, true]);
      const { total } = await pageOfMessages(services.database.sql, "", 1);
      expect(total).toBe(mood === "slow" || mood === "defers" ? 1 : 0);
      services.outboxMoods.is = "well";
      expect((await services.mailer.send(testMessage())).state).toBe("accepted");
    } finally {
      await services.close();
    }
  });
});
