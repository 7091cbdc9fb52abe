/** Files that links lead to: brought, found, given out to readers, and counted. */
import type { Server } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { LIMITS } from "#core/limits.ts";
import { linkAddress } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { emailOf, rendered, SURROUNDINGS } from "#core/testing/rendered.ts";
import { filePath, isEmptyLink, type Link, line, linkSchema } from "#core/text/index.ts";
import { createApp } from "#server/http/app.ts";
import { putBack, takeOut } from "#server/store/bin.ts";
import type { LinkedFile } from "#server/store/files.ts";
import { findNamed, namesOf } from "#server/store/finding.ts";
import type { Member } from "#server/store/team.ts";
import { createTemplate } from "#server/store/templates.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { REMOVED } from "../removed-param.ts";
import { aDesigner, answered, routeArgs } from "../testing/route.ts";
import { action } from "./api.files.ts";
import { action as change, loader as look } from "./library.file.tsx";
import { loader as listed } from "./library.files.tsx";

let services: TestServices;
let member: Member;
let server: Server;
let base: string;
beforeAll(async () => {
  services = await startTestServices();
  member = await aDesigner(services);
  const app = createApp(services, {
    build: async () => {
      throw new Error("No pages in this test");
    },
    client: null,
  });
  await new Promise<void>((ok) => {
    server = app.listen(0, "127.0.0.1", () => ok());
  });
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  server.close();
  await services.close();
});

async function brought(content: string | Uint8Array, name: string) {
  const body = new FormData();
  body.set("file", new File([content as string], name, { type: "text/html" }));
  const answer = await action(routeArgs(services, member, { body }) as never);
  return {
    status: answer.status,
    ...((await answer.json()) as { file: LinkedFile; message: string }),
  };
}
const PDF = "%PDF-1.7\n%%EOF";

describe("a file", () => {
  it("is kept under its content's name, found by its own, and given to readers as what it is", async () => {
    const { file } = await brought(PDF, "Winter programme – überall.PDF");
    expect(file).toMatchObject({ name: "Winter programme – überall.PDF", bytes: PDF.length });
    const { sql } = services.database;
    expect(await findNamed(sql, "files", "progr", "")).toEqual([
      { id: file.file, name: file.name },
    ]);
    expect(await namesOf(sql, "files", [file.file], "")).toHaveLength(1);
    const answer = await fetch(`${base}${filePath(file)}`);
    expect([answer.status, await answer.text()]).toEqual([200, PDF]);
    expect(answer.headers.get("content-type")).toBe("application/pdf");
    expect(answer.headers.get("content-disposition")).toBe(
      'inline; filename="winter-programme-uberall.pdf"',
    );
    // Name is for people: another name, or none, leads to it too.
    const short = filePath(file).split("/").slice(0, 3).join("/");
    expect((await fetch(`${base}${short}/other`)).status).toBe(200);
    expect((await fetch(`${base}${short}`)).status).toBe(200);
    // The same again, under another name, is the same file.
    expect((await brought(PDF, "again.pdf")).file).toEqual(file);
  });
  it("of any other kind is for the reader's own programs: the browser runs nothing of it", async () => {
    const { file } = await brought("<script>alert(1)</script>", "page.txt");
    const answer = await fetch(`${base}${filePath(file)}`);
    expect(answer.headers.get("content-type")).toMatch(/^text\/plain/);
    expect(answer.headers.get("content-disposition")).toBe('attachment; filename="page.txt"');
    expect(answer.headers.get("content-security-policy")).toContain("sandbox");
    expect(answer.headers.get("x-content-type-options")).toBe("nosniff");
  });
  it("is refused where a browser would run it, where it is none of its kind, or too large", async () => {
    for (const name of ["a.html", "a.svg", "a.exe", "a.js", "pdf", "a.pdf.exe", "a."]) {
      expect([name, (await brought("x", name)).message]).toEqual([
        name,
        expect.stringMatching(/^Only these can be linked to: pdf, /),
      ]);
    }
    expect((await brought("<html>", "a.pdf")).message).toContain("is none");
    expect((await brought("", "a.pdf")).message).toBe("Choose a file.");
    const large = new Uint8Array(LIMITS.fileBytes + 1);
    expect((await brought(large, "a.zip")).message).toContain("at most 10 MB");
  });
  it("that nobody has brought is found nowhere, whatever an address says", async () => {
    for (const path of ["a".repeat(22), "..%2fkey", "' or true --", "%5c"]) {
      expect([path, (await fetch(`${base}/files/${path}/x.pdf`)).status]).toEqual([path, 404]);
    }
  });
});

describe("the page of a file", () => {
  const page = (file: string, form?: Record<string, string>) =>
    routeArgs(services, member, form ? { form } : {}, { file }) as never;
  const names = async (words = "") => {
    const path = `/library/files?search=${words}`;
    const { files } = await listed(routeArgs(services, member, { path }) as never);
    return files.map(({ name }) => name);
  };
  it("renames it; it is found and given out under that name", async () => {
    const { file } = await brought("%PDF-1.7 a", "plan-final-2.pdf");
    expect(answered(await change(page(file.file, { do: "rename", name: " " }))).status).toBe(400);
    expect(await change(page(file.file, { do: "rename", name: "The plan.pdf" }))).toMatchObject({
      status: "success",
    });
    expect(await names("plan")).toContain("The plan.pdf");
    expect(await names("final")).toEqual([]);
    const answer = await fetch(`${base}${filePath(file)}`);
    expect(answer.headers.get("content-disposition")).toBe('inline; filename="the-plan.pdf"');
  });
  it("tells what links to it, and deletes it only where nothing does that is not sent", async () => {
    const { sql } = services.database;
    const { file } = await brought("%PDF-1.7 b", "Prices.pdf");
    const to = { kind: "file", file: file.file, name: file.name };
    const doc = emailOf([createBlock("button", () => "b", { to })]);
    const about = { name: "Shop", about: "", category: "letters" as const, doc };
    const template = await createTemplate(sql, about, services.clock.now());
    const shown = await look(page(file.file));
    expect(shown.uses).toMatchObject([{ kind: "template", name: "Shop", fixed: false }]);
    const refused = answered<{ error: Record<string, string[]> }>(
      await change(page(file.file, { do: "delete" })),
    );
    expect([refused.status, refused.error[""]]).toEqual([409, ["“Shop” links to it."]]);
    await services.database.tx((tx) =>
      takeOut(tx, "templates", template, "x", services.clock.now()),
    );
    const gone = (await change(page(file.file, { do: "delete" }))) as Response;
    expect(gone.status).toBe(302);
    expect(await names()).not.toContain("Prices.pdf");
    expect(await findNamed(sql, "files", "prices", "")).toEqual([]);
    await expect(look(page(file.file))).rejects.toMatchObject({ init: { status: 404 } });
    await expect(look(page("../key"))).rejects.toMatchObject({ init: { status: 404 } });
    // Readers of emails that were sent have it still; with Undo, or when it is brought again, it is offered again.
    expect((await fetch(`${base}${filePath(file)}`)).status).toBe(200);
    const removed = new URL(gone.headers.get("location")!, base).searchParams.get(REMOVED)!;
    expect(await services.database.tx((tx) => putBack(tx, removed))).toBe("The file “Prices.pdf”");
    expect(await names("prices")).toEqual(["Prices.pdf"]);
    await change(page(file.file, { do: "delete" }));
    await brought("%PDF-1.7 b", "Other name.pdf");
    expect(await names("prices")).toEqual(["Prices.pdf"]);
  });
});

describe("a link to a file", () => {
  const file = `${"a".repeat(64)}.pdf`;
  const link: Link = { kind: "file", file, name: "The plan.pdf" };
  it("is one of the links there are, and leads nowhere until one is chosen", () => {
    expect(linkSchema.safeParse(link).success).toBe(true);
    expect(isEmptyLink({ ...link, file: "" })).toBe(true);
    expect(isEmptyLink(link)).toBe(false);
    for (const wrong of ["../key", `${"a".repeat(64)}.html`, `${"A".repeat(64)}.pdf`, "a.pdf"]) {
      expect([wrong, linkSchema.safeParse({ ...link, file: wrong }).success]).toEqual([
        wrong,
        false,
      ]);
    }
  });
  it("is counted, leads on to the file for everybody, and says in plain text where it is", () => {
    const button = createBlock("button", () => "b", { label: line("The plan"), to: link as never });
    const email = emailOf([button]);
    const at = `${SURROUNDINGS.publicAddress}/files/${"a".repeat(22)}/The%20plan.pdf`;
    const direct = rendered(email);
    expect(direct.html).toContain(`href="${at}"`);
    expect(direct.text).toContain(at);
    expect(rendered(email, { links: "tracked" }).html).toContain(
      `href="${SURROUNDINGS.publicAddress}/c/t/1"`,
    );
    const compiled = compile(email, SURROUNDINGS);
    expect(linkAddress(compiled, 1, { values: {}, token: "t" })).toBe(at);
    expect(linkAddress(compiled, 2, { values: {}, token: "t" })).toBeNull();
    const hostile = { ...link, name: 'a"><script>\u0000/../ü.pdf' } as Link;
    const { html } = rendered(
      emailOf([createBlock("button", () => "b", { label: line("x"), to: hostile as never })]),
    );
    expect(html).toContain(`/files/${"a".repeat(22)}/a%22%3E%3Cscript%3E%2F..%2F%C3%BC.pdf`);
  });
});
