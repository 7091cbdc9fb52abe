/** What is found about an email while it is composed: the checks of the proof, and its size. */
import { contrastsOf, type NodeContrast } from "#core/checks/contrast.ts";
import { type KnownReaders, runChecks } from "#core/checks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Fields } from "#core/fields/index.ts";
import type { Finding, Surroundings } from "#core/kinds/kind.ts";
import { htmlBytes } from "#core/merge/index.ts";
import { colourPairs, compile } from "#core/render/index.ts";
import type { Theme } from "#core/theme/theme.ts";

export interface Inspection {
  readonly findings: readonly Finding[];
  /** By node: how well its words can be read. */
  readonly contrasts: { readonly [node: string]: NodeContrast };
  /** Of the HTML as it goes out. */
  readonly bytes: number;
}

export interface Inspected {
  readonly doc: EmailDocument;
  readonly surroundings: Surroundings;
  readonly fields: Fields;
  readonly readers: KnownReaders | null;
}

export const inspect = ({ doc, surroundings, fields, readers }: Inspected): Inspection =>
  inspectionOf(doc, surroundings, runChecks(doc, surroundings, fields, readers));

/** The same where the checks have been run already. */
export function inspectionOf(
  doc: EmailDocument,
  surroundings: Surroundings,
  findings: readonly Finding[],
): Inspection {
  const compiled = compile(doc, surroundings);
  return {
    findings,
    contrasts: contrastsOf(colourPairs(compiled.html), doc.root.props.theme as unknown as Theme),
    bytes: htmlBytes(compiled),
  };
}
