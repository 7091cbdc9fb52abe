/** Times and prices in the words of an email, against the calendar and the catalogue. */
import { expect, it } from "vitest";
import { goodEmails } from "../testing/good-emails.ts";
import { type Mistake, selling, walking } from "../testing/mistakes.ts";
import { runChecks } from "./index.ts";

const [scene] = goodEmails();
/** What a check has to say of an email with such words in it. */
function told(made: ReturnType<Mistake>, check: string): string[] {
  const { doc, around, fields, readers } = made!;
  return runChecks(doc, around, fields, readers)
    .filter((one) => one.check === check)
    .map(({ detail }) => /^The text says (.+?)[.;]( the|$)/.exec(detail ?? "")![1]!);
}

/** The calendar has it from 10:00 to 12:00. */
it.each([
  ["begins at 10am", null],
  ["begins at 10 a.m. sharp", null],
  ["ends at 12 pm", null],
  ["ends at 12:00", null],
  ["lasts from 10:00 to 12.30 pm", null],
  ["is for 10 people", null],
  ["begins at 10 pm", "22:00"],
  ["begins at 12 am", "00:00"],
  ["begins at 12.30 p.m.", "12:30"],
  ["begins at 4:05am, or 16h20", "04:05 and 16:20"],
])("an event that %s: %s", (words, said) => {
  const found = told(walking(`The dawn chorus ${words}`)(scene!), "event-times");
  expect(found).toEqual(said ? [said] : []);
});

/** The catalogue has it at 60, reduced to 45. */
it.each([
  ["costs £45", null],
  ["cost £60 until now", null],
  ["is 45.00 euros", null],
  ["takes 3 hours", null],
  ["costs £54", "54"],
  ["costs 44,50 €", "44.5"],
])("a product that %s: %s", (words, said) => {
  const found = told(selling(`Willow basket in a day ${words}`)(scene!), "price");
  expect(found).toEqual(said ? [said] : []);
});
