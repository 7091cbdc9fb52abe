import { expect, it } from "vitest";
import { type Answers, namesToAsk, recordsOf, type SigningKey, standingOf } from "./records.ts";

const KEYS: SigningKey[] = [
  { algorithm: "rsa-sha256", selector: "s1", published: "AAAA" },
  { algorithm: "ed25519-sha256", selector: "s1e", published: "BBBB" },
];
const DOMAIN = "larkmoor.example";
const RIGHT = {
  [DOMAIN]: ["site-check=1", "v=spf1 include:mail.example ~all"],
  [`s1._domainkey.${DOMAIN}`]: ["v=DKIM1; k=rsa; p=AA AA"],
  [`s1e._domainkey.${DOMAIN}`]: ["v=DKIM1; k=ed25519; p=BBBB"],
  [`_dmarc.${DOMAIN}`]: ["v=DMARC1; p=reject; rua=mailto:x@larkmoor.example"],
};
const answers = (change: Record<string, readonly string[] | null> = {}): Answers =>
  new Map(Object.entries({ ...RIGHT, ...change }));
const states = (change: Record<string, readonly string[] | null>) =>
  recordsOf(DOMAIN, KEYS, answers(change)).map(({ kind, state }) => `${kind} ${state}`);
const spf = (...records: string[]) => states({ [DOMAIN]: records })[2];
const dmarc = (...records: string[]) => states({ [`_dmarc.${DOMAIN}`]: records })[3];
const rsa = (...records: string[]) => states({ [`s1._domainkey.${DOMAIN}`]: records })[0];

it("counts what asks DNS again, and nothing else", () => {
  const asking = ["include:a.example", "a", "a:b.example", "a/24", "mx", "-mx:c.example"];
  const more = ["ptr", "?ptr:d.example", "exists:%{i}.e.example", "+a:f.example"];
  const none = ["ip4:192.0.2.1", "ip6:2001:db8::1", "all.example", "mxes", "ptrs"];
  const ten = `v=spf1 ${[...asking, ...more, ...none].join(" ")} ~all`;
  expect(spf(ten)).toBe("spf right");
  for (const one of [...asking, ...more]) {
    expect(spf(ten.replace(" ~all", ` ${one} ~all`))).toBe("spf wrong");
  }
});

it("asks for every record there is to be", () => {
  expect(new Set(namesToAsk(DOMAIN, KEYS))).toEqual(new Set(Object.keys(RIGHT)));
});

it("takes what is published as it should be, wherever it was cut", () => {
  expect(states({})).toEqual(["dkim right", "dkim right", "spf right", "dmarc right"]);
  expect(standingOf(DOMAIN, KEYS, answers())).toEqual({
    domain: DOMAIN,
    signed: true,
    policy: "reject",
  });
});

it("tells a key that is missing, another, or taken back", () => {
  expect(rsa()).toBe("dkim missing");
  expect(rsa("v=DKIM1; p=CCCC")).toBe("dkim wrong");
  expect(rsa("v=DKIM1; p=")).toBe("dkim wrong");
  const [first] = recordsOf(DOMAIN, KEYS, answers({ [`s1._domainkey.${DOMAIN}`]: [] }));
  expect(first).toMatchObject({
    name: `s1._domainkey.${DOMAIN}`,
    wanted: "v=DKIM1; k=rsa; p=AAAA",
  });
});

it("reads a policy of senders as programs do", () => {
  expect(spf()).toBe("spf missing");
  expect(spf("v=spf10 -all")).toBe("spf missing");
  expect(spf("v=spf1 -all", "v=spf1 ~all")).toBe("spf wrong");
  expect(spf("v=spf1 mx +all")).toBe("spf wrong");
  expect(spf("v=spf1 mx all")).toBe("spf wrong");
  expect(spf("v=spf1 mx")).toBe("spf wrong");
  expect(spf("v=spf1 redirect=_spf.mail.example")).toBe("spf right");
  const many = (n: number) =>
    `v=spf1 ${Array.from({ length: n }, (_, i) => `include:${i}.example`).join(" ")} ip4:192.0.2.1 -all`;
  expect([spf(many(10)), spf(many(11))]).toEqual(["spf right", "spf wrong"]);
});

it("reads what becomes of mail that is not its own", () => {
  expect(dmarc()).toBe("dmarc missing");
  expect(dmarc("v=DMARC1; p=sometimes")).toBe("dmarc wrong");
  expect(dmarc("v=DMARC1; p=none", "v=DMARC1; p=none")).toBe("dmarc wrong");
  expect(dmarc("v=DMARC1;p=QUARANTINE")).toBe("dmarc right");
});

it("says nothing of what nobody answered", () => {
  const silent = Object.fromEntries(Object.keys(RIGHT).map((name) => [name, null]));
  expect(new Set(states(silent))).toEqual(
    new Set(["dkim unknown", "spf unknown", "dmarc unknown"]),
  );
  expect(standingOf(DOMAIN, KEYS, answers(silent))).toMatchObject({ signed: null, policy: null });
  // One of the keys is enough; where one is missing and the other was not answered, nobody knows.
  expect(standingOf(DOMAIN, KEYS, answers({ [`s1._domainkey.${DOMAIN}`]: [] })).signed).toBe(true);
  const half = { [`s1._domainkey.${DOMAIN}`]: [], [`s1e._domainkey.${DOMAIN}`]: null };
  expect(standingOf(DOMAIN, KEYS, answers(half)).signed).toBeNull();
});
