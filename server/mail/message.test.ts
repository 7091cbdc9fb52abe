/** What leaves, read back by others: parsers of mail, and a verifier of signatures. */
import { mkdtemp, readFile, rm, stat, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { dkimVerify } from "mailauth/lib/dkim/verify.js";
import { simpleParser } from "mailparser";
import { expect, it } from "vitest";
import { codedFile, keyName, keyRecord } from "#core/mail/index.ts";
import { TEST_MAIL_KEYS } from "../testing/mail-keys.ts";
import { testMessage } from "../testing/message.ts";
import { type MailKeys, mailKeys, readMailKeys } from "./keys.ts";
import { finish, type Message } from "./message.ts";

const message = (change: Partial<Message> = {}) =>
  testMessage({
    unsubscribe: { address: "https://larkmoor.example/u/abc", mail: null },
    listId: "list.larkmoor.example",
    ...change,
  });

/** The records that a domain publishes, as a resolver answers. */
const resolver =
  (keys: MailKeys, domain = "larkmoor.example") =>
  async (name: string, type: string) => {
    const found = keys.published.find((one) => keyName(one.selector, domain) === name);
    if (type !== "TXT" || !found) throw Object.assign(new Error("none"), { code: "ENOTFOUND" });
    return [[keyRecord(found.algorithm, found.published)]];
  };
const verdicts = async (bytes: Buffer, keys = TEST_MAIL_KEYS, domain?: string) =>
  (await dkimVerify(bytes, { resolver: resolver(keys, domain) })).results.map(
    ({ status }) => status.result,
  );

it("is signed with both keys, for the domain of its sender", async () => {
  const { bytes, from, to } = finish(message(), TEST_MAIL_KEYS);
  expect([from, to]).toEqual(["return+1@larkmoor.example", "one@example.org"]);
  expect(await verdicts(bytes)).toEqual(["pass", "pass"]);
  const head = bytes.toString("latin1").split("\r\n\r\n")[0]!;
  expect(head).toMatch(/a=rsa-sha256/);
  expect(head).toMatch(/a=ed25519-sha256/);
  const signed = head.replaceAll("\r\n ", " ");
  expect(signed).toContain("list-unsubscribe:list-unsubscribe-post");
});

it("fails where a word of it, a header or the key is another", async () => {
  const { bytes } = finish(message(), TEST_MAIL_KEYS);
  const changed = (from: string, to: string) =>
    Buffer.from(bytes.toString("latin1").replace(from, to), "latin1");
  expect(await verdicts(changed("<p>Hi</p>", "<p>Ho</p>"))).not.toContain("pass");
  expect(await verdicts(changed("Subject: Hello", "Subject: Hullo"))).not.toContain("pass");
  // A second sender is no part of what was signed.
  expect(await verdicts(changed("From: ", "From: x@y.example\r\nFrom: "))).not.toContain("pass");
  expect(await verdicts(bytes, TEST_MAIL_KEYS, "other.example")).not.toContain("pass");
});

it("is the same however often it is made, so that a retry is the same message", async () => {
  const [one, other] = await Promise.all([
    finish(message(), TEST_MAIL_KEYS),
    finish(message(), TEST_MAIL_KEYS),
  ]);
  expect(one.bytes.equals(other.bytes)).toBe(true);
});

const words = fc.oneof(
  fc.string({ unit: "grapheme", maxLength: 120 }),
  fc.stringMatching(/^[ a.="<>@\r\n\t?]{0,80}$/),
  fc.constantFrom(
    "=?utf-8?B?RnJlZSBtb25leQ==?=",
    "x\r\nBcc: all@example.org\r\n\r\nbody",
    "--=_septima_alternative--",
    "Café — Ζωή 🌱",
  ),
);
/** What a header can say: no control characters, no blanks around it. */
const said = (text: string) => text.replace(/\s+/gu, " ").trim();

it("says the same to a reader of mail, whatever stands in it, and its signatures hold", async () => {
  await fc.assert(
    fc.asyncProperty(words, words, words, words, async (subject, name, html, text) => {
      const given = message({
        subject,
        from: { name, address: "news@larkmoor.example" },
        to: { name, address: "one@example.org" },
        html: `<p>${html}</p>`,
        text: `Hello ${text}`,
      });
      const { bytes } = finish(given, TEST_MAIL_KEYS);
      expect(await verdicts(bytes)).toEqual(["pass", "pass"]);
      const read = await simpleParser(bytes);
      expect(read.headers.has("bcc")).toBe(false);
      expect([read.from!.value.length, read.messageId]).toEqual([1, `<${given.messageId}>`]);
      expect(read.from!.value[0]!.address).toBe("news@larkmoor.example");
      const clean = (one: string) => said(one.replace(/\p{Cc}+/gu, " "));
      expect(said(read.subject ?? "")).toBe(clean(subject));
      expect(said(read.from!.value[0]!.name)).toBe(clean(name));
      // The parser gives line ends as \n, once.
      const lines = (one: string) => one.replace(/\r\n/g, "\n");
      expect((read.html as string).trim()).toBe(lines(`<p>${html}</p>`).trim());
    }),
    { numRuns: 60 },
  );
});

it("makes its keys once, for nobody else to read", async () => {
  const folder = await mkdtemp(join(tmpdir(), "septima-keys-"));
  try {
    const file = await readMailKeys(folder);
    expect(await readMailKeys(folder)).toEqual(file);
    const made = mailKeys(file);
    expect((await stat(join(folder, "mail-keys.json"))).mode & 0o777).toBe(0o600);
    expect(await readFile(join(folder, "mail-keys.json"), "utf8")).toContain("PRIVATE KEY");
    const { bytes } = finish(message(), made);
    expect(await verdicts(bytes, made)).toEqual(["pass", "pass"]);
    // What is damaged is not taken for none: new keys would have to be published.
    for (const damaged of ["", "{}", '{"selector":"x","rsa":"no","ed25519":"no"}']) {
      await writeFile(join(folder, "mail-keys.json"), damaged);
      await expect(readMailKeys(folder)).rejects.toThrow("cannot be read");
    }
  } finally {
    await rm(folder, { recursive: true });
  }
});

it("carries files byte for byte, whatever they are called and hold, signed with the rest", async () => {
  const file = fc.record({
    name: fc.oneof(
      words,
      fc.constantFrom("Plan für Mai.pdf", 'a"b\\c.ics', "../../etc/passwd", "x".repeat(110)),
    ),
    type: fc.constantFrom("application/pdf", "text/calendar", "image/png"),
    content: fc.uint8Array({ maxLength: 400 }),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(file, { minLength: 1, maxLength: 3 }), async (files) => {
      const attachments = files.map(({ content, ...rest }) => ({
        ...rest,
        coded: codedFile(content),
      }));
      const { bytes } = finish(message({ attachments }), TEST_MAIL_KEYS);
      expect(await verdicts(bytes)).toEqual(["pass", "pass"]);
      const read = await simpleParser(bytes);
      expect(read.html).toContain("<p>Hi</p>");
      expect(read.attachments).toHaveLength(files.length);
      for (const [
        i,
        { filename, content, contentType, contentDisposition },
      ] of read.attachments.entries()) {
        expect([...content]).toEqual([...files[i]!.content]);
        expect([contentType, contentDisposition]).toEqual([files[i]!.type, "attachment"]);
        expect(filename).not.toMatch(/[/\\\r\n]/);
        if (/^[\w .]+$/.test(files[i]!.name.trim()) && files[i]!.name.trim()) {
          expect(filename).toBe(files[i]!.name.trim());
        }
      }
      for (const line of bytes.toString("latin1").split("\r\n"))
        expect(line.length).toBeLessThan(999);
    }),
    { numRuns: 60 },
  );
});
