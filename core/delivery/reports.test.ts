import fc from "fast-check";
import { expect, it } from "vitest";
import { failureIn, isComplaint } from "./reports.ts";

/** A delivery-status part (RFC 3464, 2.1) about one reader. */
const status = (fields: string) =>
  `Reporting-MTA: dns; mx.example.org\r\nArrival-Date: Mon, 2 Mar 2026 09:00:00 +0000\r\n\r\n${fields}\r\n`;

it("reads what the last service said, and what it means for the reader", () => {
  const gone = status(
    "Final-Recipient: rfc822; a@example.org\r\nAction: failed\r\nStatus: 5.1.1\r\nDiagnostic-Code: smtp; 550 5.1.1 There is no\r\n  such mailbox",
  );
  expect(failureIn(gone)).toEqual({
    verdict: { kind: "reader", lasting: true, gone: true },
    reply: "550 5.1.1 There is no such mailbox",
  });
  const full = status("Action: failed\r\nStatus: 5.2.2 (mailbox full)");
  expect(failureIn(full)?.verdict).toEqual({ kind: "reader", lasting: true, gone: false });
  const policy = status("Action: failed\r\nStatus: 5.7.1\r\nDiagnostic-Code: smtp; 550 5.7.1 Spam");
  expect(failureIn(policy)?.verdict.gone).toBe(false);
  const silent = status("Action: failed\r\nStatus: nonsense");
  expect(failureIn(silent)?.verdict).toEqual({ kind: "service", lasting: true, gone: false });
});

it("takes what is on its way still, or has arrived, as no failure", () => {
  for (const action of ["delayed", "delivered", "relayed", "expanded"]) {
    expect(failureIn(status(`Action: ${action}\r\nStatus: 4.2.0`))).toBeNull();
  }
  expect(failureIn("")).toBeNull();
});

it("finds the failure among several readers", () => {
  const two = status("Action: delivered\nStatus: 2.0.0\n\nAction: FAILED\nStatus: 5.1.1");
  expect(failureIn(two)?.verdict.gone).toBe(true);
});

it("knows a complaint by its kind (RFC 5965, 7.3)", () => {
  expect(isComplaint("Feedback-Type: abuse\r\nUser-Agent: X/1\r\nVersion: 1")).toBe(true);
  expect(isComplaint("Feedback-Type: not-spam\r\nVersion: 1")).toBe(false);
  expect(isComplaint("Version: 1")).toBe(false);
});

it("reads garbage without harm", () => {
  fc.assert(
    fc.property(fc.string({ unit: "binary" }), (text) => {
      failureIn(text);
      isComplaint(text);
    }),
  );
});
