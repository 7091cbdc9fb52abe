/** A message to hand over, for tests. */
import type { Message } from "../mail/message.ts";

export const testMessage = (change: Partial<Message> = {}): Message => ({
  from: { name: "Larkmoor", address: "news@larkmoor.example" },
  to: { name: "", address: "one@example.org" },
  replyTo: null,
  subject: "Hello",
  html: "<p>Hi</p>",
  text: "Hi",
  lang: "en-GB",
  messageId: "1.launch@larkmoor.example",
  date: new Date("2026-03-02T09:00:00Z"),
  returnPath: "return+1@larkmoor.example",
  unsubscribe: null,
  listId: null,
  ...change,
});
