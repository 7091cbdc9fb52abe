/** The keys that mail is signed with: made here once, kept in the data folder. */
import {
  createHash,
  createPrivateKey,
  createPublicKey,
  generateKeyPair,
  type KeyObject,
  sign,
} from "node:crypto";
import { readFile, rename, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { promisify } from "node:util";
import { z } from "zod";
import { type Algorithm, type Assembled, toSign } from "#core/mail/index.ts";

import { StartError } from "../db/open.ts";

const generate = promisify(generateKeyPair);

export interface PublishedKey {
  readonly algorithm: Algorithm;
  readonly selector: string;
  /** As its record has it, base64. */
  readonly published: string;
}

export interface MailKeys {
  /** What the domain of a sender publishes. */
  readonly published: readonly PublishedKey[];
  /** The fields that sign a message for a domain. */
  sign(message: Assembled, domain: string, at: Date): string[];
}

interface Key extends PublishedKey {
  readonly secret: KeyObject;
}

/** A selector tells a key from the one that takes its place one day. */
const fileSchema = z.object({ selector: z.string(), rsa: z.string(), ed25519: z.string() });
export type KeyFile = z.infer<typeof fileSchema>;

const RSA_BITS = 2048;

async function makeFile(): Promise<KeyFile> {
  const [rsa, ed25519] = await Promise.all([
    generate("rsa", { modulusLength: RSA_BITS }),
    generate("ed25519"),
  ]);
  const pem = ({ privateKey }: { privateKey: KeyObject }) =>
    privateKey.export({ type: "pkcs8", format: "pem" }).toString();
  return { selector: "septima1", rsa: pem(rsa), ed25519: pem(ed25519) };
}

function keysOf({ selector, rsa, ed25519 }: KeyFile): Key[] {
  const [one, other] = [createPrivateKey(rsa), createPrivateKey(ed25519)];
  const spki = (key: KeyObject) => createPublicKey(key).export({ type: "spki", format: "der" });
  return [
    {
      algorithm: "rsa-sha256",
      selector,
      published: spki(one).toString("base64"),
      secret: one,
    },
    {
      algorithm: "ed25519-sha256",
      // RFC 8463, 4.2: the key by itself, which is the end of what stands around it.
      selector: `${selector}e`,
      published: spki(other).subarray(-32).toString("base64"),
      secret: other,
    },
  ];
}

function signatureOf({ algorithm, secret }: Key, data: string): string {
  const bytes = Buffer.from(data);
  // RFC 8463, 3: a signature of the second kind is of the hash.
  const made =
    algorithm === "rsa-sha256"
      ? sign("sha256", bytes, secret)
      : sign(null, createHash("sha256").update(bytes).digest(), secret);
  return made.toString("base64");
}

export function mailKeys(file: KeyFile): MailKeys {
  const keys = keysOf(file);
  return {
    published: keys.map(({ secret: _, ...rest }) => rest),
    sign({ fields, body }, domain, at) {
      const hash = createHash("sha256");
      for (const piece of body) hash.update(piece);
      const bodyHash = hash.digest("base64");
      return keys.map((key) => {
        const { algorithm, selector } = key;
        const { data, finish } = toSign(fields, { algorithm, domain, selector, at, bodyHash });
        return finish(signatureOf(key, data));
      });
    },
  };
}

/** The keys of a data folder; makes them where there are none yet. Throws a StartError where they are damaged. */
export async function readMailKeys(dataFolder: string): Promise<KeyFile> {
  const file = join(dataFolder, "mail-keys.json");
  const kept = await readFile(file, "utf8").catch((error) => {
    if (error.code === "ENOENT") return null;
    throw error;
  });
  if (kept !== null) {
    try {
      const file = fileSchema.parse(JSON.parse(kept));
      keysOf(file);
      return file;
    } catch {
      throw new StartError(
        `The keys in ${file} cannot be read. Put back the file as it was; without it, delete it: new keys are made, and have to be published.`,
      );
    }
  }
  const made = await makeFile();
  // Whole or not at all: a half-written key would sign nothing for ever.
  await writeFile(`${file}.new`, `${JSON.stringify(made)}\n`, { mode: 0o600 });
  await rename(`${file}.new`, file);
  return made;
}
