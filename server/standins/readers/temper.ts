/** What kind of reader somebody is, by their address: the same every time, and different enough to be counted. */
import { type Chance, chance } from "#core/random.ts";

/** FNV-1a, 32 bits: a seed from a text. */
export const seedOf = (text: string): number => {
  let hash = 0x811c9dc5;
  for (const letter of text) hash = Math.imul(hash ^ letter.codePointAt(0)!, 0x01000193);
  return hash >>> 0;
};

export interface Temper {
  /** Probabilities, 0–1. */
  readonly opens: number;
  readonly clicks: number;
  readonly orders: number;
  readonly answers: number;
  readonly leaves: number;
  readonly complains: number;
  /** 0 reads at once, 1 takes the whole time. */
  readonly slow: number;
  /** What stands before their mailbox: nothing, a program that fetches pictures, a scanner that follows links. */
  readonly before: "nothing" | "pictures" | "scanner";
}

export function temperOf(address: string): Temper {
  const own = chance(seedOf(address.toLowerCase()));
  const keen = own.next();
  return {
    opens: 0.12 + 0.75 * keen,
    clicks: 0.06 + 0.45 * own.next() * keen,
    orders: 0.1 + 0.25 * own.next(),
    answers: 0.2 + 0.5 * own.next(),
    leaves: 0.012 * own.next(),
    complains: 0.003 * own.next(),
    slow: own.next() ** 2,
    before: own.is(0.05) ? "scanner" : own.is(0.12) ? "pictures" : "nothing",
  };
}

/** How much a subject draws: short ones and those that speak to somebody more. */
export function draw(subject: string): number {
  const length = [...subject].length;
  const short = length <= 30 ? 1.25 : length <= 55 ? 1 : 0.65;
  return subject.includes("?") ? short * 1.1 : short;
}

/** What a message offers a reader. */
export interface Offered {
  readonly to: string;
  /** Where its complaints go. */
  readonly from: string;
  readonly subject: string;
  /** Addresses: of the open pixel, of counted links, of answers, and to leave by one click (RFC 8058). */
  readonly pixel: string | null;
  readonly links: readonly string[];
  readonly answers: readonly string[];
  readonly leave: string | null;
}

export interface Act {
  readonly does: "open" | "click" | "answer" | "order" | "leave" | "complain";
  /** When, from 0 (as it arrives) to 1. */
  readonly at: number;
  readonly address: string | null;
  readonly by: "person" | "pictures" | "scanner";
}

/** What a reader does with a message, in the order of time. */
export function actsOf(offered: Offered): Act[] {
  const { pixel, links, answers, leave } = offered;
  const temper = temperOf(offered.to);
  const own = chance(seedOf(`${offered.to} ${offered.subject}`));
  const acts: Act[] = [];
  if (temper.before === "pictures" && pixel) {
    acts.push({ does: "open", at: 0, address: pixel, by: "pictures" });
  }
  if (temper.before === "scanner") {
    for (const address of links) acts.push({ does: "click", at: 0, address, by: "scanner" });
  }
  return [...acts, ...readAs(temper, own, offered.subject, { pixel, links, answers, leave })].sort(
    (a, b) => a.at - b.at,
  );
}

function readAs(
  temper: Temper,
  own: Chance,
  subject: string,
  { pixel, links, answers, leave }: Pick<Offered, "pixel" | "links" | "answers" | "leave">,
): Act[] {
  // Each is asked, whatever came of those before: so that one change does not turn all others.
  const reads = own.is(Math.min(0.97, temper.opens * draw(subject)));
  const start = Math.min(0.9, 0.02 + temper.slow * 0.7 * own.next());
  const clicks = own.is(temper.clicks / temper.opens);
  const link = own.next();
  const orders = own.is(temper.orders);
  const answersIt = own.is(temper.answers);
  const answer = own.next() ** 0.6;
  const complains = own.is(temper.complains);
  const leaves = own.is(temper.leaves);
  if (!reads) return [];
  const act = (does: Act["does"], after: number, address: string | null): Act => ({
    does,
    at: Math.min(1, start + after),
    address,
    by: "person",
  });
  // What stands further up is followed more often.
  const chosen = links[Math.floor(link ** 1.7 * links.length)] ?? null;
  return [
    ...(pixel ? [act("open", 0, pixel)] : []),
    ...(clicks && chosen ? [act("click", 0.02, chosen)] : []),
    ...(clicks && chosen && orders ? [act("order", 0.05, null)] : []),
    ...(answersIt && answers.length > 0
      ? [act("answer", 0.03, answers[Math.floor(answer * answers.length)]!)]
      : []),
    ...(complains
      ? [act("complain", 0.06, null)]
      : leaves && leave
        ? [act("leave", 0.06, leave)]
        : []),
  ];
}
