/** Mail addresses: whether one is written well, and when two are the same. */
import { LIMITS } from "../limits.ts";
import { fold } from "./fold.ts";

/** The common shape of a mail address: enough to find slips, not the whole of RFC 5322. */
export const MAIL_ADDRESS = /^[^\s@<>()[\]\\,;:"]+@[a-z0-9-]+(\.[a-z0-9-]+)+$/i;

export interface MailAddress {
  /** As it is written to, the domain in lower case. */
  readonly address: string;
  /**
   * What tells addresses apart by the standards: the part before the @ as it is (RFC 5321, 2.4), the domain
   * without regard to case (RFC 1035, 2.3.3), in ASCII and without a dot at its end (UTS 46).
   */
  readonly key: string;
  /** The key without regard to case and accents: addresses that probably are one mailbox share it. */
  readonly folded: string;
}

/** Reads a mail address; null where it is none. Line breaks and other controls make it none. */
export function readAddress(text: string): MailAddress | null {
  const written = text.trim().normalize("NFC");
  const at = written.lastIndexOf("@");
  if (at < 1 || written.length > LIMITS.addressLength || !written.isWellFormed()) return null;
  const local = written.slice(0, at);
  const domain = asciiDomain(written.slice(at + 1));
  if (!domain) return null;
  const address = `${local}@${domain}`;
  // biome-ignore lint/suspicious/noControlCharactersInRegex: controls are what is refused
  if (!MAIL_ADDRESS.test(address) || /[\u0000-\u001f\u007f\u200b-\u200f\u2028-\u202e]/.test(local))
    return null;
  return { address, key: address, folded: fold(address) };
}

function asciiDomain(text: string): string | null {
  const bare = text.replace(/[.\u3002\uff0e\uff61]$/, "");
  if (/^[a-z0-9.-]+$/i.test(bare)) return bare.toLowerCase();
  if (/[\s/?#@:\\%[\]]/.test(bare) || !URL.canParse(`http://${bare}`)) return null;
  const { hostname } = new URL(`http://${bare}`);
  return /^[a-z0-9.-]+$/.test(hostname) ? hostname : null;
}

/** The folded form of an address whatever it looks like: for looking it up. */
export const foldAddress = (text: string): string => readAddress(text)?.folded ?? fold(text.trim());
