/** A reader calls a message spam: the mailbox's provider reports it to where the message came from (ARF, RFC 5965). */
import nodemailer from "nodemailer";
import type { Config } from "../../config.ts";

const REPORT = [
  "From: Complaints <abuse@mailboxes.example>",
  "Subject: A complaint about a message of yours",
  "MIME-Version: 1.0",
  'Content-Type: multipart/report; report-type=feedback-report; boundary="b"',
  "",
  "--b",
  "Content-Type: text/plain; charset=us-ascii",
  "",
  "Somebody has called this message spam.",
  "--b",
  "Content-Type: message/feedback-report",
  "",
  "Feedback-Type: abuse",
  "User-Agent: Septima readers/1.0",
  "Version: 1",
  "",
  "--b--",
  "",
].join("\r\n");

/** `returnPath` is the message's own. Without a port for such reports there is nobody to hear it. False where it is not taken. */
export async function complain({ returns }: Config, returnPath: string): Promise<boolean> {
  if (!returns) return true;
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: returns.port,
    ignoreTLS: true,
  });
  try {
    await transport.sendMail({ envelope: { from: "", to: [returnPath] }, raw: REPORT });
    return true;
  } finally {
    transport.close();
  }
}
