/** Who sees what is selected: everybody, or those for whom a rule holds; and its alternatives as one place. */
import { ArrowDown, ArrowUp, Plus } from "lucide-react";
import { nameOf } from "#core/blocks/names.ts";
import { type DocNode, find } from "#core/document/index.ts";
import type { Seen } from "#core/text/index.ts";
import { chainReach, conditionalParts, reachOf } from "#core/versions/index.ts";
import { RuleDialog } from "../../rules/rule-dialog.tsx";
import { readersIn, ruleWords } from "../../rules/words.ts";
import { Button, Buttonlike, IconButton } from "../../ui/button.tsx";
import { count, people } from "../../ui/words.ts";
import { shift } from "../doing/actions.ts";
import { useCommands } from "../doing/commands.ts";
import { useReading } from "../reading/reading.ts";
import { useSelecting, useSelection } from "../selection/selection.ts";
import { useSession } from "../session/session.ts";
import { Section } from "../settings/parts.tsx";
import { addAlternative, chainOf, leaveChain, setSeenBy } from "./actions.ts";

const seenOf = (node: DocNode) => node.props as unknown as Seen;

export function SeenSection({ node }: { node: DocNode }) {
  const { doc, whoSees } = useReading("doc", "whoSees");
  const { run } = useCommands();
  const { campaign } = useSession();
  const { seenBy, chain } = seenOf(node);
  const part = conditionalParts(doc).find((one) => one.node === node && one.words === null);
  const reach = whoSees && part && reachOf(part.when, whoSees.conditions, whoSees.groups);
  return (
    <Section title="Who sees it">
      {part ? (
        <div className="border-l-[3px] border-saffron pl-2.5" data-seen-by>
          {reach !== null && reach !== undefined && (
            <p className="font-display text-display leading-tight" data-reach>
              {count(reach)}
              <span className="ml-1.5 font-sans text-small text-ink-2">
                of {people(readersIn(whoSees))}
              </span>
            </p>
          )}
          <p className="text-small text-ink-2">{ruleWords(seenBy, whoSees, chain !== null)}</p>
        </div>
      ) : (
        <p className="text-ink-2">Everybody.</p>
      )}
      <div className="flex flex-wrap gap-2">
        <RuleDialog
          title="Who sees it"
          rule={seenBy}
          use="Show it to them"
          campaign={campaign}
          onUse={(rule) => run(setSeenBy(node, rule))}
          trigger={
            <Buttonlike type="button">
              {seenBy ? "Change the rule" : "Only some readers…"}
            </Buttonlike>
          }
        />
        {seenBy && <Button onClick={() => run(setSeenBy(node, null))}>Everybody</Button>}
      </div>
      {node.type !== "column" && <Alternatives node={node} />}
    </Section>
  );
}

/** The alternatives that stand in one place, with how many see each, and whom the chain leaves out. */
function Alternatives({ node }: { node: DocNode }) {
  const { doc, whoSees, fixed } = useReading("doc", "whoSees", "fixed");
  const { run } = useCommands();
  const { select } = useSelecting();
  const { selected } = useSelection("selected");
  const { chain } = seenOf(node);
  const members = chainOf(doc, node);
  const add = (
    <Button disabled={fixed !== null} onClick={() => run(addAlternative(doc, node.id))}>
      <Plus className="size-3.5" /> {chain ? "Another alternative" : "Others see instead…"}
    </Button>
  );
  if (!chain) return <div>{add}</div>;
  const falls = whoSees && chainReach(members.map(seenOf), whoSees.conditions, whoSees.groups);
  return (
    <div>
      <h4 className="mb-1 text-small font-semibold">The first that fits is shown</h4>
      <ol aria-label="Alternatives" className="mb-2 border-t">
        {members.map((member, i) => (
          <li
            key={member.id}
            className={`flex items-center gap-1.5 border-b py-1 ${member.id === selected ? "bg-saffron-soft" : ""}`}
          >
            <button
              type="button"
              className="min-w-0 flex-1 truncate text-left hover:underline"
              aria-current={member.id === selected}
              onClick={() => select(member.id)}
            >
              <span className="font-semibold">{String.fromCharCode(65 + (i % 26))}</span>{" "}
              {seenOf(member).seenBy
                ? ruleWords(seenOf(member).seenBy, whoSees, true)
                : "everybody else"}
            </button>
            <span className="font-display text-lead" data-alternative-reach>
              {falls ? count(falls.each[i]!) : "…"}
            </span>
            <IconButton
              label={`Alternative ${i + 1}: earlier`}
              disabled={i === 0}
              className="size-5!"
              onClick={() => run(shift(doc, [member.id], -1))}
            >
              <ArrowUp />
            </IconButton>
            <IconButton
              label={`Alternative ${i + 1}: later`}
              disabled={i === members.length - 1}
              className="size-5!"
              onClick={() => run(shift(doc, [member.id], 1))}
            >
              <ArrowDown />
            </IconButton>
          </li>
        ))}
      </ol>
      {falls && falls.none > 0 && (
        <p className="mb-1 text-small text-saffron-ink" data-gap>
          {people(falls.none)} see none of them.
        </p>
      )}
      {falls && falls.several > 0 && (
        <p className="mb-1 text-small text-ink-2" data-overlap>
          More than one fits {people(falls.several)}: they see the first.
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        {add}
        <Button onClick={() => run(leaveChain(doc, node))}>Stand alone</Button>
      </div>
      {members.length === 1 && (
        <p className="mt-1 text-small text-ink-3">
          {nameOf(find(doc, node.id)!.node)} has no other alternative beside it.
        </p>
      )}
    </div>
  );
}
