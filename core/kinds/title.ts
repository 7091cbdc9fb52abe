/** A title in the outline of an email. */
import type { DocNode } from "../document/index.ts";
import type { TextJson, When } from "../text/index.ts";

export interface Title {
  readonly node: DocNode;
  /** In the outline: 1 is the email's own. */
  readonly level: number;
  readonly words: TextJson;
  /** Who sees it; null for everybody. */
  readonly when: When | null;
}
