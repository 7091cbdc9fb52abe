/** Beside a rule that is built: how many it reaches, what it says, whom it catches and whom it just misses. */
import { Link } from "react-router";
import type { Rule } from "#core/rules/index.ts";
import { Chip } from "../ui/page.tsx";
import { count, people, percent } from "../ui/words.ts";
import { type ReachAnswer, useReach } from "./use-reach.ts";

function Person({ person }: { person: ReachAnswer["caught"][number] }) {
  return (
    <span className="flex items-baseline gap-1.5">
      <Link to={`/people/contacts/${person.id}`} className="truncate font-semibold hover:underline">
        {person.name}
      </Link>
      {person.heldBack && <Chip tone="wrong">{person.heldBack}</Chip>}
    </span>
  );
}

/** With a campaign, of its readers; otherwise of everybody who can be mailed. */
export function ReachPanel({ rule, campaign = null }: { rule: Rule; campaign?: string | null }) {
  const { answer, pending, failed } = useReach(rule, campaign);
  if (failed)
    return <p className="text-rust">The reach could not be counted. Check your connection.</p>;
  if (!answer) return <p className="text-ink-3">Counting…</p>;
  const { reach, words, caught, missed } = answer;
  const held = reach.all - reach.mailable;
  return (
    <div aria-busy={pending} className={pending ? "opacity-60" : ""}>
      <div className="font-display text-display leading-none" data-reach>
        {count(reach.mailable)}
      </div>
      <p className="mt-1 text-body text-ink-2">
        {reach.mailable === 1 ? "person" : "people"}, {percent(reach.mailable, reach.of)}{" "}
        {campaign ? "of this campaign’s readers" : "of all who can be mailed"}
      </p>
      <p className="text-small text-ink-3">
        {held === 0
          ? "Nobody suppressed is among them."
          : `With those suppressed: ${people(reach.all)}.`}
      </p>
      <h2 className="mt-5 mb-1 text-title">In words</h2>
      <p className="text-small text-ink-2" data-words>
        {words}
      </p>
      <h2 className="mt-5 mb-1 text-title">It catches</h2>
      {caught.length === 0 && <p className="text-ink-3">Nobody.</p>}
      <ul>
        {caught.map((person) => (
          <li key={person.id} className="border-b py-1">
            <Person person={person} />
          </li>
        ))}
      </ul>
      <h2 className="mt-5 mb-1 text-title">It just misses</h2>
      {missed.length === 0 && <p className="text-ink-3">Nobody.</p>}
      <ul>
        {missed.map((person) => (
          <li key={person.id} className="border-b py-1">
            <Person person={person} />
            <span className="block text-small text-ink-3">
              {rule.type === "none" ? "because: " : "lacks: "}
              {person.because.join("; ")}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
