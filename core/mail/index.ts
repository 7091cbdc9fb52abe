export { type Coded, coded, codedBody, codedFile } from "./body.ts";
export * from "./dkim.ts";
export { addressSpec, asciiDomain, type Mailbox, mailbox } from "./header.ts";
export { type Assembled, type Attachment, assemble, type Message } from "./message.ts";
export * from "./records.ts";
