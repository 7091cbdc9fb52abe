/** What a check of the proof is given, and gives. */
import type { EmailProps } from "../blocks/layout.ts";
import type { EmailDocument } from "../document/index.ts";
import type { Fields } from "../fields/index.ts";
import type { Finding, Surroundings } from "../kinds/kind.ts";
import type { CompiledEmail } from "../render/index.ts";

export interface CheckInput {
  readonly doc: EmailDocument;
  readonly email: EmailProps;
  readonly compiled: CompiledEmail;
  readonly surroundings: Surroundings;
  readonly fields: Fields;
}

export interface Check {
  readonly id: string;
  run(input: CheckInput): Finding[];
}
