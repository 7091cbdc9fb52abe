/** All links of the email in one table: where they lead, what they say, who sees them. Addresses are changed there. */

import { type FormEvent, useState } from "react";
import { Link as RouteLink } from "react-router";
import type { EmailDocument } from "#core/document/index.ts";
import { type LinkPlace, leadingElsewhere } from "#core/links/links.ts";
import {
  type Line,
  type Link,
  line,
  plainLine,
  webAddressProblem,
  withScheme,
} from "#core/text/index.ts";
import { Button } from "../ui/button.tsx";
import { INPUT } from "../ui/field.tsx";
import { count, counted } from "../ui/words.ts";
import { useEdits } from "./edit.ts";

/** A link with how many readers see each of its places. */
export interface ShownLink {
  readonly to: Link;
  readonly places: readonly (LinkPlace & { readonly people: number })[];
}

const OWN: Partial<Record<Link["kind"], string>> = {
  unsubscribe: "the way to unsubscribe",
  preferences: "what readers choose to get",
  webVersion: "the web version",
  shared: "the web version for others",
  place: "a place in this email",
  derived: "a derived tag",
  forward: "a message of the reader’s own",
  answer: "the page of an answer",
};
const addressOf = (to: Link): string =>
  to.kind === "web"
    ? plainLine(to.address, () => "…")
    : to.kind === "mail"
      ? `mailto:${to.address}`
      : to.kind === "phone"
        ? `tel:${to.number}`
        : to.kind === "file"
          ? to.name
          : (OWN[to.kind] ?? to.kind);
/** An address of the web without tags can be written over here. */
const isPlain = (to: Link): boolean =>
  to.kind === "web" && (to.address.content ?? []).every(({ type }) => type === "text");

export function Links({
  campaign,
  seq,
  doc,
  links,
}: {
  campaign: string;
  seq: number;
  doc: EmailDocument;
  links: readonly ShownLink[];
}) {
  if (links.length === 0) return <p className="text-ink-2">There are no links yet.</p>;
  return (
    <table className="w-full border-collapse bg-sheet text-body">
      <caption className="sr-only">Links of the email</caption>
      <thead>
        <tr className="text-left text-small text-ink-2">
          <th className="px-3 py-2 font-medium">Leads to</th>
          <th className="px-3 py-2 font-medium">Words</th>
          <th className="px-3 py-2 font-medium">Where</th>
          <th className="px-3 py-2 text-right font-medium">Readers</th>
        </tr>
      </thead>
      {links.map((link, i) => (
        <tbody key={i} className="border-t">
          {link.places.map((place, j) => (
            <tr key={j} className="align-top">
              {j === 0 && (
                <th
                  scope="rowgroup"
                  rowSpan={link.places.length}
                  className="w-2/5 px-3 py-2 text-left font-normal"
                >
                  <Address
                    key={addressOf(link.to)}
                    campaign={campaign}
                    seq={seq}
                    doc={doc}
                    link={link}
                  />
                </th>
              )}
              <td className="px-3 py-2">
                {place.words || <span className="text-ink-3">an image</span>}
              </td>
              <td className="px-3 py-2">
                <RouteLink
                  className="link"
                  to={`/campaigns/${campaign}?${new URLSearchParams({ at: place.node === doc.root.id ? "envelope" : place.node, ...(place.path.length > 0 && { in: place.path.join(".") }) })}`}
                >
                  {place.where}
                </RouteLink>
                {place.byHand && <span className="text-ink-2">, by hand</span>}
              </td>
              <td className="px-3 py-2 text-right tabular-nums">{count(place.people)}</td>
            </tr>
          ))}
        </tbody>
      ))}
    </table>
  );
}

/** The address of a link, to be written over for all its places at once. */
function Address({
  campaign,
  seq,
  doc,
  link,
}: {
  campaign: string;
  seq: number;
  doc: EmailDocument;
  link: ShownLink;
}) {
  const shown = addressOf(link.to);
  const [draft, setDraft] = useState(shown);
  const [problem, setProblem] = useState<string | null>(null);
  const { busy, edit } = useEdits(campaign, seq);
  const changeable = link.places.filter(({ byHand }) => !byHand).length;
  if (!isPlain(link.to) || changeable === 0) return <span className="break-all">{shown}</span>;
  const change = (event: FormEvent) => {
    event.preventDefault();
    const address: Line = withScheme(line(draft.trim()));
    const wrong = draft.trim() === "" ? "Write where it leads." : webAddressProblem(address);
    setProblem(wrong);
    if (wrong) return;
    const edits = leadingElsewhere(doc, link.to, { kind: "web", address });
    const places = counted(changeable, "place");
    if (edits.length) void edit(edits, `Changed in ${places}`);
  };
  return (
    <form onSubmit={(event) => change(event)} className="flex flex-col gap-1">
      <div className="flex gap-2">
        <input
          aria-label={`Address of ${link.places[0]!.words || shown}`}
          aria-invalid={problem !== null || undefined}
          className={INPUT}
          value={draft}
          onChange={(event) => setDraft(event.currentTarget.value)}
        />
        {draft !== shown && (
          <Button type="submit" disabled={busy}>
            {changeable === 1 ? "Change" : `Change ${changeable}`}
          </Button>
        )}
      </div>
      {problem && <span className="text-small text-rust">{problem}</span>}
    </form>
  );
}
