/** Where a link leads. Addresses are checked here and nowhere else. */
import { z } from "zod";
import { MAIL_ADDRESS } from "../fields/address.ts";
import { LIMITS } from "../limits.ts";
import { type Line, line, lineSchema, plainLine } from "./schema.ts";

/**
 * Says what is wrong with a web address, or null. Only http and https lead anywhere; anything else
 * (`javascript:`, `data:` …) is refused. Tags may follow the host, never make it.
 */
export function webAddressProblem(address: Line): string | null {
  const text = plainLine(address, () => "x");
  if (text.trim() === "") return null;
  const first = address.content?.[0];
  if (first?.type !== "text" || !/^https?:\/\/[^\s/?#]+/i.test(first.text ?? "")) {
    return "A web address begins with https:// (or http://) and a host, for example https://larkmoor.example/visit.";
  }
  const hostOnly = /^https?:\/\/[^\s/?#]*$/i.test(first.text ?? "");
  if (hostOnly && (address.content?.length ?? 0) > 1) {
    return "A merge tag cannot stand in the host of an address; put it after the first slash.";
  }
  // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is looked for
  if (/[\s\u0000-\u001f"<>\\]/.test(text)) {
    return "An address has no spaces, quotes or angle brackets in it.";
  }
  if (text.length > LIMITS.webAddressLength) return "This address is too long.";
  if (!URL.canParse(text)) return "This is not a complete web address.";
  const { username, password } = new URL(text);
  if (username || password) return "An address with a user name in it is not allowed here.";
  return null;
}

const PHONE = /^\+?[0-9][0-9 ()./-]{2,30}$/;

export const linkSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("none") }),
  z.strictObject({
    kind: z.literal("web"),
    address: lineSchema.superRefine((address, ctx) => {
      const problem = webAddressProblem(address);
      if (problem) ctx.addIssue({ code: "custom", message: problem });
    }),
  }),
  z.strictObject({
    kind: z.literal("mail"),
    address: z
      .string()
      .max(LIMITS.addressLength)
      .refine((a) => a === "" || MAIL_ADDRESS.test(a), "This is not a mail address."),
  }),
  z.strictObject({
    kind: z.literal("phone"),
    number: z
      .string()
      .max(40)
      .refine((n) => n === "" || PHONE.test(n), "This is not a phone number."),
  }),
  /** A band, a block or an item of the same email, by its id. */
  z.strictObject({ kind: z.literal("place"), node: z.string().regex(/^[A-Za-z0-9_-]{0,40}$/) }),
  z.strictObject({ kind: z.literal("webVersion") }),
  z.strictObject({ kind: z.literal("unsubscribe") }),
  /** The page on which a reader chooses what to get. */
  z.strictObject({ kind: z.literal("preferences") }),
  /** Where a derived tag leads, by its id: another address for each reader. */
  z.strictObject({ kind: z.literal("derived"), tag: z.string().regex(/^[A-Za-z0-9_-]{0,40}$/) }),
  /** The web version for others: without anything of the reader's own. */
  z.strictObject({ kind: z.literal("shared") }),
  /** A message of one's own that leads to it. */
  z.strictObject({ kind: z.literal("forward"), subject: lineSchema }),
]);
export type Link = z.infer<typeof linkSchema>;

/** The kinds of links there are. */
export const linkKinds: ReadonlySet<string> = new Set(
  linkSchema.options.map(({ shape }) => shape.kind.value),
);

/** True when following the link would lead nowhere. */
export function isEmptyLink(link: Link): boolean {
  switch (link.kind) {
    case "none":
      return true;
    case "web":
      return plainLine(link.address, () => "x").trim() === "";
    case "mail":
      return link.address === "";
    case "phone":
      return link.number === "";
    case "place":
      return link.node === "";
    case "derived":
      return link.tag === "";
    default:
      return false;
  }
}

/** The link an address stands for, as it is written in HTML or typed; null where it leads nowhere safe. */
export function linkFrom(address: string): Link | null {
  const text = address.trim();
  const mail = /^mailto:([^?]+)/i.exec(text)?.[1] ?? (MAIL_ADDRESS.test(text) ? text : null);
  const phone = /^tel:(.+)$/i.exec(text)?.[1];
  const candidate = mail
    ? { kind: "mail", address: mail }
    : phone
      ? { kind: "phone", number: phone }
      : /^https?:/i.test(text)
        ? { kind: "web", address: line(text) }
        : null;
  const result = candidate && linkSchema.safeParse(candidate);
  return result?.success ? result.data : null;
}
