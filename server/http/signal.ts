/** What a request for a counted address shows of who makes it. */
import type { Signal } from "#core/delivery/machines.ts";

export const signalOf = ({ headers, method }: Request): Omit<Signal, "sinceMs"> => ({
  agent: headers.get("user-agent"),
  method,
  purpose: headers.get("sec-purpose") ?? headers.get("purpose"),
});
