/** Where a link leads. Addresses are checked here and nowhere else. */
import { z } from "zod";
import { MAIL_ADDRESS } from "../fields/address.ts";
import { LIMITS } from "../limits.ts";
import { FILE_NAME } from "./file-link.ts";
import { plainLine } from "./line.ts";
import type { Line } from "./schema.ts";

/** What comes of pasting an address behind a beginning that stood there. */
const TWICE = /^https?:\/\/\s*https?(:|\/\/)/i;

/** Whether a line is an address of the web by itself, whatever the values of its tags: a tag alone may be anything. */
export const isWebAddress = (text: Line): boolean =>
  text.content?.[0]?.type === "text" && webAddressProblem(text) === null;

/**
 * Says what is wrong with a web address, or null. Only http and https lead anywhere; anything else
 * (`javascript:`, `data:` …) is refused. Tags may follow the host, never make it.
 */
export function webAddressProblem(address: Line): string | null {
  const text = plainLine(address, () => "x");
  if (text.trim() === "") return null;
  const first = address.content?.[0];
  // A tag alone is a whole address of the reader's own: whether it is one is seen when it is merged.
  if (first?.type === "tag" && address.content?.length === 1) return null;
  if (TWICE.test(text)) return "This address begins with https:// twice.";
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

/** A host as people write it without its scheme: names with a dot between, and what may follow a host. */
const BARE =
  /^\s*(?:[\p{L}\p{N}](?:[\p{L}\p{N}-]*[\p{L}\p{N}])?\.)+\p{L}{2,}(?::\d+)?(?=[/?#]|\s*$)/u;

/** The address with https:// before it, where it begins with a bare host (`larkmoor.example/visit`). */
export function withScheme(address: Line): Line {
  const [first, ...rest] = address.content ?? [];
  if (first?.type !== "text" || !BARE.test(first.text ?? "")) return address;
  const text = `https://${(first.text ?? "").trimStart()}`;
  return { ...address, content: [{ ...first, text }, ...rest] };
}

const PHONE = /^\+?[0-9][0-9 ()./-]{2,30}$/;

/** The schema of links, on that of the lines in them. */
export const linkOf = (lineSchema: z.ZodType<Line>) =>
  z.discriminatedUnion("kind", [
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
    /** A file of the library: its own name, and what people call it. */
    z.strictObject({
      kind: z.literal("file"),
      file: z.union([z.literal(""), z.string().regex(FILE_NAME)]),
      name: z.string().max(LIMITS.nameLength),
    }),
    /** The web version for others: without anything of the reader's own. */
    z.strictObject({ kind: z.literal("shared") }),
    /** The page of an answer to a question of the same email, by the answer's node. */
    z.strictObject({ kind: z.literal("answer"), node: z.string().regex(/^[A-Za-z0-9_-]{0,40}$/) }),
    /** A message of one's own that leads to it. */
    z.strictObject({ kind: z.literal("forward"), subject: lineSchema }),
  ]);
export type Link = z.infer<ReturnType<typeof linkOf>>;

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
    case "file":
      return link.file === "";
    default:
      return false;
  }
}
