/** Links of the addresses they are written as. */
import { MAIL_ADDRESS } from "../fields/address.ts";
import type { Link } from "./link.ts";
import { line, linkSchema } from "./schema.ts";

/** The kinds of links there are. */
export const linkKinds: ReadonlySet<string> = new Set(
  linkSchema.options.map(({ shape }) => shape.kind.value),
);

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
