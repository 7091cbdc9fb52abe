/** Contacts to read as, from the server. */
import type { ReaderChoice } from "../wire.ts";

/** By `search`, by `id`, or the one `to` the `next` or `previous` of another; nobody where that fails. */
export async function fetchReaders(query: Record<string, string>): Promise<ReaderChoice[]> {
  const response = await fetch(`/contacts/find?${new URLSearchParams(query)}`);
  return response.ok ? ((await response.json()) as { contacts: ReaderChoice[] }).contacts : [];
}
