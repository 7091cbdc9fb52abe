import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { hasField, sentForm, submissionOf } from "./form.ts";

const schema = z
  .discriminatedUnion("do", [
    z.object({ do: z.literal("add"), email: z.string().default("") }),
    z.object({
      do: z.literal("set"),
      cases: z.array(z.object({ name: z.string().optional(), tags: z.array(z.string()) })),
    }),
  ])
  .superRefine(() => {});

const sent = (body: string, type = "application/x-www-form-urlencoded") =>
  new Request("http://127.0.0.1/x", { method: "POST", body, headers: { "content-type": type } });

describe("the names of a form", () => {
  it.each(["do", "email", "cases", "cases[0].name", "cases[99].tags[3]", "cases[1]"])(
    "has %s",
    (name) => expect(hasField(schema, name)).toBe(true),
  );
  it.each([
    "",
    "other",
    "toString",
    "__proto__",
    "constructor.prototype",
    "email[0]",
    "email[99999999]",
    "cases[99999]",
    "cases[0].toString",
    "cases[-1].name",
    "cases.name",
    "cases[0].name.x",
    "cases[0",
    "email\0",
  ])("does not have %s", (name) => expect(hasField(schema, name)).toBe(false));

  it("are never anything else, however they are put together", () => {
    const part = fc.constantFrom(
      "cases",
      "[0]",
      ".name",
      "[",
      "]",
      ".",
      "[7777777]",
      "__proto__",
      "email",
    );
    fc.assert(
      fc.property(fc.array(part, { maxLength: 9 }), (parts) => {
        const name = parts.join("");
        if (hasField(schema, name)) {
          expect(name).toMatch(/^(email|cases(\[0\](\.name)?)?)$/);
        }
      }),
    );
  });
});

describe("a form that is sent", () => {
  it("reads what the form has and leaves the rest, at once", async () => {
    const began = performance.now();
    const read = await submissionOf(sent("do=add&email=a@b.c&email[99999999]=1&x=2"), schema);
    expect(read.status === "success" && read.value).toEqual({ do: "add", email: "a@b.c" });
    expect(performance.now() - began).toBeLessThan(1_000);
  });

  it.each([
    ["too many fields", "a=&".repeat(LIMITS.formFields + 1), undefined, 413],
    ["a NUL", "do=add&email=%00", undefined, 400],
    ["broken multipart", "--x\r\nnonsense", "multipart/form-data; boundary=x", 400],
    ["multipart without a boundary", "x", "multipart/form-data", 400],
    ["another kind", "{}", "application/json", 400],
  ])("refuses %s", async (_, body, type, status) => {
    await expect(sentForm(sent(body, type))).rejects.toMatchObject({ init: { status } });
  });
});
