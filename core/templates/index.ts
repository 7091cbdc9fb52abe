/** The templates that ship. A new one is a file beside this one and an entry here. */
import type { EmailDocument } from "../document/index.ts";
import { oneColumn, twoColumns, wideAndNarrow } from "./bare.ts";
import { calmNewsletter } from "./calm-newsletter.ts";
import type { Category } from "./categories.ts";
import { comeToThis } from "./come-to-this.ts";
import { digestInCards } from "./digest-in-cards.ts";
import { membersEvening } from "./members-evening.ts";
import { membershipRenewal } from "./membership-renewal.ts";
import { oneAnnouncement } from "./one-announcement.ts";
import type { Scenes } from "./parts.ts";
import { plainLetter } from "./plain-letter.ts";
import { seasonalCard } from "./seasonal-card.ts";
import { shopShelf } from "./shop-shelf.ts";
import { thankYou } from "./thank-you.ts";
import { threeQuestions } from "./three-questions.ts";
import { welcome } from "./welcome.ts";

export { SCENES, type Scene, type Scenes } from "./parts.ts";

export interface ShippedTemplate {
  /** Known by this for ever: what shipped once is not shipped again after it was deleted. */
  readonly key: string;
  readonly name: string;
  readonly about: string;
  readonly category: Category;
  make(scenes: Scenes | null): EmailDocument;
}

export const SHIPPED: readonly ShippedTemplate[] = [
  {
    key: "calm-newsletter",
    name: "Calm newsletter",
    about: "A month’s news: one opening, two things side by side.",
    category: "news",
    make: calmNewsletter,
  },
  {
    key: "digest-in-cards",
    name: "Digest in cards",
    about: "What is new in your feeds, by rule.",
    category: "news",
    make: digestInCards,
  },
  {
    key: "one-announcement",
    name: "One announcement",
    about: "One thing only, and what to do about it.",
    category: "announcements",
    make: oneAnnouncement,
  },
  {
    key: "shop-shelf",
    name: "Shop shelf",
    about: "Products by rule, a code, one of them at length.",
    category: "shop",
    make: shopShelf,
  },
  {
    key: "come-to-this",
    name: "Come to this",
    about: "An invitation: day, place, a yes.",
    category: "invitations",
    make: comeToThis,
  },
  {
    key: "welcome",
    name: "Welcome",
    about: "The first email somebody gets, with three ways to begin.",
    category: "letters",
    make: welcome,
  },
  {
    key: "thank-you",
    name: "Thank you",
    about: "After a gift: what it made possible, in figures.",
    category: "letters",
    make: thankYou,
  },
  {
    key: "seasonal-card",
    name: "Seasonal card",
    about: "An image, a wish, a name.",
    category: "announcements",
    make: seasonalCard,
  },
  {
    key: "plain-letter",
    name: "Plain letter",
    about: "As one person writes to another.",
    category: "letters",
    make: plainLetter,
  },
  {
    key: "three-questions",
    name: "Three questions",
    about: "A survey that is answered in the email.",
    category: "questions",
    make: threeQuestions,
  },
  {
    key: "membership-renewal",
    name: "Membership renewal",
    about: "Until when it runs, what it brought, how to go on.",
    category: "members",
    make: membershipRenewal,
  },
  {
    key: "members-evening",
    name: "Members’ evening",
    about: "An invitation with a programme and a code for the door.",
    category: "members",
    make: membersEvening,
  },
  {
    key: "bare-one-column",
    name: "One column",
    about: "A title, words, a button.",
    category: "bare",
    make: oneColumn,
  },
  {
    key: "bare-two-columns",
    name: "Two columns",
    about: "An image, a title and words, four times.",
    category: "bare",
    make: twoColumns,
  },
  {
    key: "bare-wide-and-narrow",
    name: "Wide and narrow",
    about: "Words, with something smaller beside them.",
    category: "bare",
    make: wideAndNarrow,
  },
];
