import { LIMITS } from "../../limits.ts";
import { fold } from "../fold.ts";
import type { FieldKind } from "../kind.ts";

/** The address as it is kept, or null where it is none of the web's. */
function webAddress(text: string): string | null {
  const written = text.trim();
  const whole = /^[a-z][a-z0-9+.-]*:/i.test(written) ? written : `https://${written}`;
  if (whole.length > LIMITS.webAddressLength || /\s/.test(whole) || !URL.canParse(whole))
    return null;
  const { protocol, hostname, username, password, href } = new URL(whole);
  const fits = /^https?:$/.test(protocol) && hostname.includes(".") && !username && !password;
  return fits ? href : null;
}

/** The address of a site or page. */
export const web: FieldKind<string> = {
  type: "web",
  label: "Web address",
  column: "text",
  key: { column: "text", of: fold },
  check: (value) => (typeof value === "string" ? webAddress(value) : null),
  parse(text) {
    if (text.trim() === "") return { value: null };
    const value = webAddress(text);
    return value ? { value } : { problem: `“${text.slice(0, 40)}” is not a web address` };
  },
  write: (value) => value,
  sample: () => "https://example.org/",
};
