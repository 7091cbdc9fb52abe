/** The templates that ship. A new one is a file beside this one and an entry here. */
import type { EmailDocument } from "../document/index.ts";
import { calmNewsletter } from "./calm-newsletter.ts";

export interface ShippedTemplate {
  /** Known by this for ever: what shipped once is not shipped again after it was deleted. */
  readonly key: string;
  readonly name: string;
  readonly about: string;
  make(): EmailDocument;
}

export const SHIPPED: readonly ShippedTemplate[] = [
  {
    key: "calm-newsletter",
    name: "Calm newsletter",
    about: "A masthead, an opening with an image, two things side by side, a footer.",
    make: calmNewsletter,
  },
];
