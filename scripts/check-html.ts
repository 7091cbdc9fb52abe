/**
 * Has an independent checker (the Nu HTML checker, in Java) read every sample of the gallery, every demo email and
 * every template in every theme that ships. What it may find is a closed list: attributes that email needs although HTML calls them
 * presentational, and the namespaces and one property of the table-only engine. Anything else fails.
 */
import { execFile } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { EmailDocument } from "#core/document/index.ts";
import { SHIPPED } from "#core/templates/index.ts";
import { PICTURE, rendered } from "#core/testing/rendered.ts";
import { samples } from "#core/testing/samples.ts";
import { SHIPPED_THEMES } from "#core/theme/shipped.ts";
import { monthlyNewsletter, notebook, seedList } from "#demo/emails/index.ts";

const NEEDED = "align|valign|bgcolor|background|width|height|border|cellpadding|cellspacing";
const ALLOWED = [
  new RegExp(`^The “(${NEEDED})” attribute on the “[a-z0-9]+” element is obsolete`),
  new RegExp(`^Attribute “(${NEEDED})” not allowed on element “[a-z0-9]+”`),
  /^Attribute “xmlns:[vo]” not (allowed here|serializable)/,
  // Hides the preview text from the table-only engine, where it stands.
  /^CSS: “mso-hide”/,
];

interface Message {
  readonly type: string;
  readonly url: string;
  readonly lastLine?: number;
  readonly message: string;
  readonly extract?: string;
}

const jar = createRequire(import.meta.url).resolve("vnu-jar/build/dist/vnu.jar");
const pictures = Object.fromEntries(
  ["early-flowers", "brook-walk", "glasshouse", "seed-packets"].map((name) => [name, PICTURE]),
) as Parameters<typeof monthlyNewsletter>[0];
const documents: [string, EmailDocument][] = [
  ...samples([PICTURE]).map(({ name, doc }): [string, EmailDocument] => [name, doc]),
  ["demo-monthly", monthlyNewsletter(pictures, "March", "roll")],
  ["demo-seeds", seedList(pictures)],
  ["demo-notebook", notebook(pictures)],
  ...SHIPPED.flatMap(({ key, make }) =>
    Object.entries(SHIPPED_THEMES).map(([name, theme]): [string, EmailDocument] => {
      const { root, ...doc } = make(null);
      const themed = { ...root, props: { ...root.props, theme: theme as never } };
      return [`template-${key}-${name}`, { ...doc, root: themed }];
    }),
  ),
];

const folder = mkdtempSync(join(tmpdir(), "septima-html-"));
try {
  for (const [name, doc] of documents) {
    writeFileSync(join(folder, `${name}.html`), rendered(doc).html);
  }
  const output = await new Promise<string>((ok) => {
    // It ends with an error code where it finds anything; what it found stands on its error stream.
    execFile(
      "java",
      ["-Xss1m", "-jar", jar, "--errors-only", "--format", "json", folder],
      { maxBuffer: 64_000_000 },
      (_error, stdout, stderr) => ok(stderr || stdout),
    );
  });
  const { messages } = JSON.parse(output) as { messages: Message[] };
  const wrong = messages.filter(
    ({ type, message }) => type === "error" && !ALLOWED.some((pattern) => pattern.test(message)),
  );
  for (const { url, lastLine, message, extract } of wrong) {
    const name = url.split("/").at(-1);
    console.log(`${name}:${lastLine ?? "?"}  ${message}\n    ${extract?.trim() ?? ""}`);
  }
  const fine = documents.length;
  console.log(
    `html: ${fine} documents checked, ${wrong.length} errors beyond the list (${messages.length - wrong.length} on it)`,
  );
  process.exitCode = wrong.length ? 1 : 0;
} finally {
  rmSync(folder, { recursive: true });
}
