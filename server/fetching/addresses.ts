/** Which machines may be asked: those of the public internet alone. */
import { lookup as resolve } from "node:dns";
import { isIP, type LookupFunction } from "node:net";
import ipaddr from "ipaddr.js";
import { FetchError } from "./error.ts";

/** Whether an IP address is one of the public internet (IANA special-purpose registries, RFC 6890). */
export function isPublic(address: string): boolean {
  // An IPv4 address in IPv6 clothes is what it is (RFC 4291, 2.5.5.2).
  return ipaddr.isValid(address) && ipaddr.process(address).range() === "unicast";
}

export const refusal = () => new FetchError("This address leads into a private network.");

/** The same for the host of an address, where that is written as an IP address. */
export function isRefusedHost(hostname: string): boolean {
  const bare = hostname.replace(/^\[|\]$/g, "");
  return isIP(bare) !== 0 && !isPublic(bare);
}

/**
 * Looks a name up for a connection, and refuses it where any of its addresses is private: what is connected to is
 * what was looked at, so that a name cannot lead elsewhere in between.
 */
export const publicLookup: LookupFunction = (hostname, options, done) => {
  resolve(hostname, { ...options, all: true }, (error, addresses) => {
    if (error) return done(error, "", 0);
    if (addresses.length === 0 || !addresses.every(({ address }) => isPublic(address))) {
      return done(refusal(), "", 0);
    }
    if (options.all)
      return (done as (error: null, found: typeof addresses) => void)(null, addresses);
    done(null, addresses[0]!.address, addresses[0]!.family);
  });
};
