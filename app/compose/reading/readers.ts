/** Contacts to read as, from the server. */
import { answerTo } from "../../ask.ts";
import type { ReaderChoice } from "../wire.ts";

/** Those whose words fit what is typed; null where there was no answer. */
export async function findReaders(search: string): Promise<ReaderChoice[] | null> {
  const path = `/contacts/find?${new URLSearchParams({ search })}`;
  return (await answerTo<{ contacts: ReaderChoice[] }>(path))?.contacts ?? null;
}

/** By `search`, by `id`, or the one `to` the `next` or `previous` of another; nobody where that fails. */
export async function fetchReaders(query: Record<string, string>): Promise<ReaderChoice[]> {
  const path = `/contacts/find?${new URLSearchParams(query)}`;
  return (await answerTo<{ contacts: ReaderChoice[] }>(path))?.contacts ?? [];
}
