/** Where links lead, as far as their addresses tell. */
import type { EmailDocument } from "../document/index.ts";
import type { Mend } from "../kinds/kind.ts";
import { type Mention, mentionsIn } from "../mentions/index.ts";
import { type Line, line } from "../text/index.ts";
import { type Check, type CheckInput, isInText, placeOf } from "./check.ts";

export type LinkMention = Extract<Mention, { what: "link" }>;

export const linksIn = ({ mentions }: Pick<CheckInput, "mentions">): LinkMention[] =>
  mentions.filter((one): one is LinkMention => one.what === "link");

/** The address of a link to the web as it is written; null where a tag is in it, or it leads elsewhere. */
export function plainAddress({ to }: LinkMention): string | null {
  if (to.kind !== "web") return null;
  const content = (to.address as Line).content ?? [];
  if (content.some((part) => part.type !== "text")) return null;
  return content.map((part) => part.text ?? "").join("");
}

/** The addresses of an email that can be asked whether anything is there, each once: no tag is in them. */
export const addressesToAsk = (doc: EmailDocument): string[] => [
  ...new Set(
    linksIn({ mentions: mentionsIn(doc) }).flatMap((mention) => {
      const address = plainAddress(mention);
      const host = address && /^https?:/i.test(address) ? hostOf(address) : null;
      return address && host && !PRIVATE.test(host) ? [address] : [];
    }),
  ),
];

/** Whether two hosts are of one site. */
export const isSameSite = (one: string, other: string): boolean => {
  const [a, b] = [bare(one), bare(other)];
  return a === b || a.endsWith(`.${b}`) || b.endsWith(`.${a}`);
};

const PRIVATE =
  /^(localhost|127\.|10\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.|0\.0\.0\.0|\[?::1\]?$)|\.(local|localhost|internal|intranet|lan|test|invalid)$/i;
const TRIED = /^(staging|stage|preprod|dev|qa|uat|test)[.-]/i;

export function hostOf(address: string): string | null {
  try {
    return new URL(address).hostname;
  } catch {
    return null;
  }
}

export const testLinks: Check = {
  id: "test-link",
  run: (input) =>
    linksIn(input).flatMap((mention) => {
      const host = hostOf(plainAddress(mention) ?? "");
      if (!host || !(PRIVATE.test(host) || TRIED.test(host))) return [];
      return [
        {
          check: "test-link",
          severity: "look" as const,
          message: `A link leads to ${host}`,
          detail: PRIVATE.test(host)
            ? "Readers cannot reach it: it is a machine of your own."
            : "This looks like the place where a site is tried out.",
          at: placeOf(mention.node),
          in: mention.path,
        },
      ];
    }),
};

/** Another address for a link that a block has; a link in a text is mended in the text. */
export function readdress(mention: LinkMention, address: string): readonly Mend[] {
  if (isInText(mention) || mention.to.kind !== "web") return [];
  const path = [...mention.path, "address"];
  return [
    {
      label: `Make it ${address}`,
      edits: [{ type: "set", node: mention.node.id, path, value: line(address) as never }],
    },
  ];
}

/** What is malformed cannot be written down at all (`core/text/link.ts`); this can. */
export const linkShape: Check = {
  id: "link-shape",
  run: (input) =>
    linksIn(input).flatMap((mention) => {
      const address = plainAddress(mention);
      if (!address || !/^http:\/\//i.test(address) || PRIVATE.test(hostOf(address) ?? ""))
        return [];
      return [
        {
          check: "link-shape",
          severity: "hint" as const,
          message: "A link is not encrypted",
          detail: `“${address}” begins with http:.`,
          at: placeOf(mention.node),
          in: mention.path,
          mends: readdress(mention, address.replace(/^http:/i, "https:")),
        },
      ];
    }),
};

/** A name of a site in words. */
const SITE = /(?:https?:\/\/)?((?:[a-z0-9-]+\.)+[a-z]{2,})(?:\/\S*)?$/i;
/** A host without what says nothing. */
const bare = (host: string) => host.toLowerCase().replace(/^www\./, "");

export const linkWords: Check = {
  id: "link-words",
  run: (input) =>
    linksIn(input).flatMap((mention) => {
      const host = hostOf(plainAddress(mention) ?? "");
      const named = SITE.exec(mention.words.trim())?.[1];
      if (!host || !named || mention.words.trim().includes(" ")) return [];
      if (isSameSite(host, named)) return [];
      return [
        {
          check: "link-words",
          severity: "look" as const,
          message: `A link says ${named} and leads to ${host}`,
          detail: "Readers, and filters more so, take that for a trick.",
          at: placeOf(mention.node),
          in: mention.path,
        },
      ];
    }),
};

const SAYS_NOTHING = /^(click|tap|press)?\s*(here|this|link)$|^(cliquez )?ici$|^lien$/i;

/** Whoever listens may hear the links alone (WCAG 2.2, 2.4.4). */
export const linkNames: Check = {
  id: "link-name",
  run({ compiled }) {
    const links = compiled.links.filter(({ words, to }) => words.trim() && to.kind === "web");
    const keyOf = ({ words }: (typeof links)[number]) => words.trim().toLowerCase();
    const leads = new Map<string, Set<string>>();
    for (const link of links) {
      leads.set(keyOf(link), (leads.get(keyOf(link)) ?? new Set()).add(JSON.stringify(link.to)));
    }
    const told = new Set<string>();
    return links.flatMap((link) => {
      const key = keyOf(link);
      const ways = leads.get(key)!.size;
      const nothing = SAYS_NOTHING.test(key);
      if ((!nothing && ways < 2) || told.has(key)) return [];
      told.add(key);
      return [
        {
          check: "link-name",
          severity: "hint" as const,
          message: nothing
            ? `A link is called “${link.words.trim()}”`
            : `${ways} links are called “${link.words.trim()}” and lead to different places`,
          detail: nothing
            ? "Whoever hears the links alone cannot tell where it leads: name what is there."
            : "Whoever hears the links alone cannot tell them apart.",
          at: link.node,
        },
      ];
    });
  },
};
