/**
 * What a refusal is about. A service refuses for reasons of its own far more often than for the reader's: the
 * phase it answers in and its status code (RFC 5321, 4.2; RFC 3463; RFC 7504) tell which. Only what is about
 * the reader ever counts against a reader.
 */
import type { Reply } from "./reply.ts";

/** How far a message had come when the answer came. */
export const PHASES = ["connect", "signIn", "sender", "reader", "data", "content"] as const;
export type Phase = (typeof PHASES)[number];

export type Kind = "reader" | "message" | "connection" | "service";

export interface Verdict {
  readonly kind: Kind;
  /** Trying again with nothing changed is no use. */
  readonly lasting: boolean;
  /** There is no such mailbox: one answer is enough to hold the address back. */
  readonly gone: boolean;
}

interface Rule {
  /** Any where it is left out. */
  readonly phases?: readonly Phase[];
  /** Is looked for in the enhanced code; a rule without one is for any. */
  readonly enhanced?: RegExp;
  /** Is looked for in the reply code, where the service gives no enhanced one. */
  readonly bare?: RegExp;
  /** Is looked for in the words. */
  readonly words?: RegExp;
  readonly kind: Kind;
  readonly gone?: true;
  /** Why, for whoever reads the table. */
  readonly because: string;
}

const ABOUT_US =
  /relay|authenticat|sign.?in|log.?in|block|blacklist|spam|reputation|denied|policy|not permitted|unauthori[sz]ed/i;
const ALLOWANCE = /quota|limit|too many|rate|exceed/i;

/** The first that fits counts. What fits none is the service's. */
const RULES: readonly Rule[] = [
  {
    phases: ["connect", "signIn", "data"],
    kind: "service",
    because: "nothing has been said about a reader or a message yet",
  },
  {
    phases: ["sender", "content"],
    enhanced: /^[45]\.3\.4$/,
    kind: "message",
    because: "the message is too big (3.4)",
  },
  { phases: ["sender"], kind: "service", because: "it is we who may not send" },

  {
    phases: ["reader", "content"],
    enhanced: /^[45]\.1\.[78]$/,
    kind: "service",
    because: "1.7 and 1.8 are the sender's address",
  },
  {
    phases: ["reader", "content"],
    enhanced: /^5\.1\.(?!4$)/,
    kind: "reader",
    gone: true,
    because: "the address is wrong; 1.4 is ambiguous only",
  },
  { phases: ["reader", "content"], enhanced: /^[45]\.1\./, kind: "reader", because: "addressing" },
  {
    phases: ["content"],
    enhanced: /^[45]\.2\.2$/,
    kind: "service",
    because: "it had taken the reader: what is full is what we may send",
  },
  {
    phases: ["reader", "content"],
    enhanced: /^[45]\.2\./,
    kind: "reader",
    because: "the mailbox is full or closed",
  },
  {
    phases: ["reader"],
    enhanced: /^[45]\.(4\.[1467]|6\.7)$/,
    kind: "reader",
    because: "the reader's host cannot be reached, or takes no such address (RFC 6531)",
  },
  {
    phases: ["reader"],
    enhanced: /^4\.7\./,
    kind: "reader",
    because: "held off for now: greylisting",
  },
  {
    phases: ["content"],
    enhanced: /^4\.7\./,
    kind: "service",
    because: "held off for now, whoever it is for",
  },
  {
    phases: ["reader"],
    enhanced: /^5\.7\./,
    words: /relay|authenticat|sign.?in|log.?in/i,
    kind: "service",
    because: "we may not send through it",
  },
  {
    phases: ["reader", "content"],
    enhanced: /^[45]\.[67]\./,
    kind: "message",
    because: "content and policy",
  },
  { enhanced: /./, kind: "service", because: "mail system, network and protocol" },

  {
    phases: ["reader"],
    bare: /^5/,
    words: ABOUT_US,
    kind: "service",
    because: "we may not send through it",
  },
  {
    phases: ["content"],
    bare: /^[45]/,
    words: ALLOWANCE,
    kind: "service",
    because: "what we may send is used up",
  },
  { phases: ["reader"], bare: /^55[016]$/, kind: "reader", gone: true, because: "no such mailbox" },
  {
    phases: ["reader"],
    bare: /^(501|55[23]|45[0-2])$/,
    kind: "reader",
    because: "the mailbox, for now or for good",
  },
  { phases: ["reader"], bare: /^554$/, kind: "message", because: "refused without a reason" },
  {
    phases: ["content"],
    bare: /^55[034]$/,
    kind: "message",
    because: "refused once it had been read",
  },
];

const fits = (rule: Rule, phase: Phase, { code, enhanced, text }: Reply): boolean =>
  (rule.phases?.includes(phase) ?? true) &&
  (rule.enhanced === undefined || (enhanced !== null && rule.enhanced.test(enhanced))) &&
  (rule.bare === undefined || (enhanced === null && rule.bare.test(String(code)))) &&
  (rule.words?.test(text) ?? true);

/** What an answer in a phase is about. Without a reply the connection broke; 421 is the service closing it. */
export function judge(phase: Phase, reply: Reply | null): Verdict {
  if (!reply || (reply.code === 421 && phase !== "connect")) {
    return { kind: "connection", lasting: false, gone: false };
  }
  const rule = RULES.find((one) => fits(one, phase, reply));
  const lasting = reply.code >= 500;
  return { kind: rule?.kind ?? "service", lasting, gone: lasting && rule?.gone === true };
}
