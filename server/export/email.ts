/** An email as it is taken out: as one reader gets it, or with its tags. */
import type { EmailDocument } from "#core/document/index.ts";
import { type LiquidTemplate, toLiquid } from "#core/export/liquid/index.ts";
import { languageOf } from "#core/languages/index.ts";
import { assemble } from "#core/mail/index.ts";
import { wrapText } from "#core/markup/index.ts";
import { envelopeAddress, mergeText, prepare } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { readerOf, worldOfEmail } from "../audience/readers.ts";
import { surroundings } from "../campaigns/emails.ts";
import { newId } from "../ids.ts";
import type { Services } from "../services.ts";
import { attachmentsOf, codedFiles } from "../store/attachments.ts";
import type { Campaign } from "../store/campaigns.ts";
import { getContact } from "../store/contacts.ts";
import { loadDocument } from "../store/documents.ts";

export interface Written {
  readonly subject: string;
  readonly html: string;
  readonly text: string;
}

/** What is taken out, each made when it is asked for. */
export interface Exported {
  readonly services: Services;
  readonly name: string;
  readonly doc: EmailDocument;
  /** As it was asked for: filled in, or with its tags. */
  written(): Written;
  template(): LiquidTemplate;
  /** As a message (RFC 5322). */
  message(): Promise<Uint8Array>;
}

export interface As {
  /** Whom it is filled in for; 0 for somebody of whom nothing is known. */
  readonly contact: number;
  /** Tags and conditions stay, as Liquid writes them. */
  readonly tags: boolean;
  /** In which of its languages; null for that of the reader. */
  readonly lang: (doc: EmailDocument) => string | null;
}

/** Makes what is taken out of a campaign; null where its email is gone. */
export async function exportedOf(
  services: Services,
  campaign: Campaign,
  { contact, tags, lang }: As,
): Promise<Exported | null> {
  const { database, config, clock, signer } = services;
  const { sql } = database;
  const now = clock.now();
  const stored = await loadDocument(sql, campaign.documentId);
  if (!stored) return null;
  const { doc } = stored;
  const around = await surroundings(sql, config, doc, now, campaign.id);
  const unsent = { doc, around, campaign };
  const world = await worldOfEmail(services, unsent);
  const token = signer.sign({ kind: "sample", campaign: campaign.id, contact });
  const known = contact ? await getContact(sql, contact) : null;
  const reader = await readerOf(services, unsent, world, known, token);
  const email = compile(doc, around, lang(doc) ?? languageOf(doc, reader.values));
  const direct = { links: "direct", marks: false, sign: signer.seal } as const;
  const template = () => toLiquid(email, { ...direct, world });
  const merged = (): Written => {
    const { subject, html, text } = prepare(email, direct);
    return {
      subject: mergeText(subject, reader),
      html: mergeText(html, reader),
      text: mergeText(text, reader),
    };
  };
  const raw = () => (tags ? template() : merged());
  return {
    ...{ services, name: campaign.name, doc, template },
    written() {
      const { subject, html, text } = raw();
      return { subject, html, text: tags ? text : wrapText(text) };
    },
    async message() {
      const { hostname } = new URL(config.publicAddress);
      // An email that is being written may not say yet whom it is from.
      const address = envelopeAddress(email.fromAddress, reader, email) ?? `nobody@${hostname}`;
      const { subject, html, text } = raw();
      const files = await attachmentsOf(sql, campaign.id);
      const { fields, body } = assemble({
        from: { name: mergeText(prepare(email, direct).fromName, reader), address },
        to: { name: "", address: known?.email ?? `reader@${hostname}` },
        replyTo: envelopeAddress(email.replyTo, reader, email),
        ...{ subject, html, text, lang: email.lang, date: now, returnPath: address },
        messageId: `export.${newId()}@${hostname}`,
        ...{ unsubscribe: null, listId: null },
        attachments: await codedFiles(
          sql,
          files.map(({ id }) => id),
        ),
      });
      const head = fields.map(([, line]) => line).join("");
      return Buffer.concat([Buffer.from(`${head}\r\n`), ...body]);
    },
  };
}
