/** Files that emails come in: what is read of each, and what hostile ones cannot do. */
import { strToU8, zipSync } from "fflate";
import sharp from "sharp";
import { beforeAll, describe, expect, it } from "vitest";
import { walk } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { STANDARD_THEME } from "#core/theme/theme.ts";
import { wordParagraph as paragraph, wordFile } from "../testing/word.ts";
import { arrivingIn } from "./arriving.ts";
import { ArrivalError } from "./error.ts";
import { decoded, readFile } from "./files.ts";
import { answer, type ReadForeign, type TakenApart, type ToTake } from "./work.ts";

const bytes = (text: string) => new TextEncoder().encode(text);
const zip = (files: Record<string, Uint8Array>) => zipSync(files);
const taking = (html: string, more: Partial<ToTake> = {}): ToTake => ({
  ...{ html, subject: "", draft: false, keepLook: true, whole: false },
  ...{ theme: STANDARD_THEME, meanings: {}, pictures: new Map(), ...more },
});
const taken = (html: string, more: Partial<ToTake> = {}) =>
  answer({ do: "take", ...taking(html, more) }) as Promise<TakenApart>;
const typesIn = ({ doc }: TakenApart) =>
  [...walk(doc.root)]
    .map(({ type }) => type)
    .filter((type) => !/^(email|band|column)$/.test(type) && !type.includes("."));

let rose: Buffer;
beforeAll(async () => {
  rose = await sharp({ create: { width: 40, height: 30, channels: 3, background: "#702040" } })
    .png()
    .toBuffer();
});

describe("a draft", () => {
  const draftOf = async (name: string, file: Uint8Array) => {
    const { html, draft } = await readFile(name, file);
    return taken(html, { draft });
  };
  it("in Markdown becomes headings, texts, tables, dividers and buttons", async () => {
    const words =
      "# Spring\n\nIt *begins*, with [bulbs](https://x.example/bulbs).\n\n- one\n- two\n\n[Come and see](https://x.example/see)\n\n---\n\n| Bed | Day |\n| --- | --- |\n| A | 3 |\n\n![A bed](https://x.example/bed.png)\n";
    expect(typesIn(await draftOf("a.md", bytes(words)))).toEqual([
      ...["heading", "text", "button", "divider", "table", "html", "footer"],
    ]);
  });
  it("as plain text is words alone, whatever stands in it", async () => {
    const { doc } = await draftOf(
      "a.txt",
      bytes("Spring\n======\n\nTwo < three & <b>four</b>\nnext line"),
    );
    const text = JSON.stringify(doc);
    expect(text).toContain("Two < three & <b>four</b>");
    expect(text).toContain('"heading"');
  });
  it("from a word processor has its headings, and none of its macros", async () => {
    const file = wordFile(paragraph("Open day", "Heading1") + paragraph("Come at ten."), {
      "word/vbaProject.bin": strToU8("x"),
    });
    const { html, notes, draft } = await readFile("a.docx", file);
    expect(notes).toEqual(["The macros in it were left out."]);
    expect(typesIn(await taken(html, { draft }))).toEqual([...["heading", "text", "footer"]]);
  });
});

describe("an email with its images", () => {
  it("comes in a ZIP file, wherever they lie in it", async () => {
    const page =
      '<img src="img/rose.png" alt="A rose"><img src="../../etc/passwd" alt="x"><p>Roses</p>';
    const file = zip({
      "mail/index.html": strToU8(page),
      "mail/img/rose.png": rose,
      "etc/passwd": strToU8("x"),
    });
    const { html, pictures } = await readFile("a.zip", file);
    expect([...pictures.keys()]).toEqual(["img/rose.png"]);
    const id = "b".repeat(64);
    const known = { id, here: "/pictures/rose.png", address: "https://mail.example/rose.png" };
    const own = new Map([["img/rose.png", known]]);
    expect(typesIn(await taken(html, { pictures: own }))).toEqual(["image", "html", "text"]);
  });
  it("comes as a message, with its subject", async () => {
    const message = [
      ...[
        "Subject: =?utf-8?Q?Ros=C3=A9s?=",
        "MIME-Version: 1.0",
        'Content-Type: multipart/related; boundary="b"',
        "",
      ],
      ...[
        "--b",
        "Content-Type: text/html; charset=utf-8",
        "",
        '<p>Hello</p><img src="cid:r1" alt="A rose">',
      ],
      ...[
        "--b",
        "Content-Type: image/png",
        "Content-ID: <r1>",
        "Content-Transfer-Encoding: base64",
        "",
        rose.toString("base64"),
      ],
      ...[
        "--b",
        'Content-Type: application/pdf; name="plan.pdf"',
        'Content-Disposition: attachment; filename="plan.pdf"',
        "",
        "x",
        "--b--",
        "",
      ],
    ].join("\r\n");
    const { subject, pictures, notes } = await readFile("a.eml", bytes(message));
    expect(subject).toBe("Rosés");
    expect([...pictures.keys()]).toEqual(["cid:r1"]);
    expect(notes).toEqual(["Its attachments were left out: plan.pdf."]);
  });
  it("has them in its HTML", async () => {
    const source = `<img src="data:image/png;base64,${rose.toString("base64")}" alt="A rose">`;
    const { html, pictures } = await readFile("a.html", bytes(source));
    expect(html).toBe('<img src="embedded:1" alt="A rose">');
    expect(Buffer.from(pictures.get("embedded:1")!).equals(rose)).toBe(true);
  });
  it("is read in the encoding it names, or most likely has", () => {
    expect(decoded(Buffer.from("<p>caf\u00e9</p>", "latin1"))).toBe("<p>café</p>");
    expect(decoded(Buffer.from("\ufeff<p>é</p>", "utf16le"))).toContain("<p>é</p>");
    const named = Buffer.concat([
      Buffer.from('<meta charset="iso-8859-7"><p>'),
      Buffer.from([0xe1]),
    ]);
    expect(decoded(named)).toContain("α");
  });
});

describe("what is hostile or broken", () => {
  it("is refused with a sentence where it unpacks without end, or cannot be read", async () => {
    const bomb = zip({ "a.html": new Uint8Array(LIMITS.foreignUnpacked + 1) });
    await expect(readFile("a.zip", bomb)).rejects.toThrow(/unpacks to more than/);
    await expect(readFile("a.docx", bomb)).rejects.toThrow(/unpacks to more than/);
    const many = Object.fromEntries(
      Array.from({ length: LIMITS.foreignFiles + 1 }, (_, i) => [`${i}.html`, strToU8("x")]),
    );
    await expect(readFile("a.zip", zip(many))).rejects.toThrow(ArrivalError);
    await expect(readFile("a.zip", bytes("PK no"))).rejects.toThrow("damaged");
    await expect(readFile("a.docx", bytes("PK no"))).rejects.toThrow(ArrivalError);
    await expect(readFile("a.exe", bytes("MZ"))).rejects.toThrow("is not taken");
    await expect(readFile("a.html", bytes(" "))).rejects.toThrow("nothing in this file");
    await expect(readFile("a.eml", bytes("Subject: x\r\n\r\n"))).rejects.toThrow("no words");
  });
  it("leaves no script, no address of its own kind, and no way out of its place", async () => {
    const html = `<p onclick="x()">Words</p><script>alert(1)</script><svg onload="alert(2)"><script>alert(3)</script><text>drawn</text></svg><a href="javascript:alert(4)">go</a><form action="https://x.example"><input onfocus="x()">sign</form><img src="x" onerror="alert(5)" alt="a">`;
    const { doc } = await taken(html);
    const { shownAs } = await import("./showing.ts");
    const { startTestServices } = await import("../testing/services.ts");
    const services = await startTestServices();
    try {
      const shown = await shownAs(services, doc);
      expect(shown).not.toMatch(/alert\(|onclick|onload|onfocus|onerror|<form|<svg|javascript:/);
      expect(shown).toContain("Words");
    } finally {
      await services.close();
    }
  });
  // How its time grows with its depth and length is measured (`npm run bench -- foreign`).
  it("is read, however deep or long it is", async () => {
    const deep = `${"<table><tr><td>".repeat(4_000)}down${"</td></tr></table>".repeat(4_000)}`;
    expect(JSON.stringify((await taken(deep)).doc)).toContain("down");
    const long = `<div>${"<p>Some words <b>here</b> and <a href='https://x.example/'>there</a>.</p>".repeat(60_000)}</div>`;
    const { doc, cut } = await taken(long);
    // What an email can hold of it, and a word that the rest is left out.
    expect(JSON.stringify(doc).match(/Some words/g)!.length).toBeGreaterThan(2_000);
    expect(cut).toBe(true);
  }, 60_000);
});

/** A ZIP whose directory says that each of its files has 100 bytes (APPNOTE 4.3.7, 4.3.12). */
function lying(file: Uint8Array): Uint8Array {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  for (let i = 0; i < file.length - 30; i++) {
    const mark = view.getUint32(i, true);
    if (mark === 0x04034b50) view.setUint32(i + 22, 100, true);
    if (mark === 0x02014b50) view.setUint32(i + 24, 100, true);
  }
  return file;
}

describe("files that unpack to more than they say", () => {
  it("are unpacked to no more than that", async () => {
    const page = `<p>Words</p>${" ".repeat(30_000_000)}<p>After them</p>`;
    const document = `<?xml version="1.0"?><w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${page}</w:body></w:document>`;
    const word = lying(zip({ "word/document.xml": strToU8(document) }));
    await expect(readFile("a.docx", word)).rejects.toThrow("cannot be read");
    const { html } = await readFile("a.zip", lying(zip({ "index.html": strToU8(page) })));
    expect(html.length).toBeLessThanOrEqual(100);
  });
});

describe("the thread", () => {
  const arriving = arrivingIn(new URL("./worker.ts", import.meta.url));
  it("reads, takes apart, and says what is wrong", async () => {
    const read = await arriving.read("a.html", bytes("<h1>Hello</h1><p>there</p>"));
    const { html } = read as ReadForeign;
    expect(typesIn(await arriving.take(taking(html)))).toEqual(["heading", "text"]);
    await expect(arriving.read("a.exe", bytes("MZ"))).rejects.toThrow(ArrivalError);
  });
  it("is ended where it takes too long", async () => {
    const hasty = arrivingIn(new URL("./worker.ts", import.meta.url), { ms: 1 });
    await expect(hasty.read("a.html", bytes("<p>x</p>"))).rejects.toThrow("takes too long");
  });
  it("is ended where it needs too much memory, and the next is read", async () => {
    const small = arrivingIn(new URL("./worker.ts", import.meta.url), { heap: 90 });
    const many = bytes("<table><tr><td>".repeat(150_000));
    await expect(small.read("a.html", many)).rejects.toThrow("too much in this");
    expect(await small.read("a.html", bytes("<p>x</p>"))).toHaveProperty("html");
  }, 60_000);
});
