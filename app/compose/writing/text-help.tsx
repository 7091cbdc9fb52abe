/** Help with the words of a block: how they read, and plainer or shorter ones to take or leave. */
import { useState } from "react";
import { textsOf } from "#core/blocks/index.ts";
import { type DocNode, find, valueAt } from "#core/document/index.ts";
import { lettersIn, replaceFound, type TextJson } from "#core/text/index.ts";
import type { Proposal, TextAdvice } from "#core/writing/helper.ts";
import { Button } from "../../ui/button.tsx";
import { useCommands } from "../doing/commands.ts";
import { ownStep } from "../doing/doing.ts";
import { useMessages } from "../messages/messages.ts";
import { useReading } from "../reading/reading.ts";
import { useSession } from "../session/session.ts";
import { Section } from "../settings/parts.tsx";
import { askHelper } from "./ask.ts";

const EASE: readonly [number, string][] = [
  [70, "easy to read"],
  [50, "fairly easy to read"],
  [30, "hard to read"],
  [0, "very hard to read"],
];
const easeWords = (ease: number) => EASE.find(([from]) => ease >= from)![1];

interface Advised {
  readonly path: readonly string[];
  readonly advice: TextAdvice;
}

export function TextHelp({ node }: { node: DocNode }) {
  const { campaign } = useSession();
  const { doc } = useReading("doc");
  const session = useSession();
  const { edit } = useCommands();
  const { say } = useMessages();
  const [advised, setAdvised] = useState<readonly Advised[] | null>(null);
  const [busy, setBusy] = useState(false);
  const texts = textsOf(node.type).filter(({ kind }) => kind !== "line");
  if (texts.length === 0) return null;

  /** The text as it is at this moment, with what is being typed. */
  const textAt = (path: readonly string[]): TextJson | null => {
    const now = find(session.state().doc, node.id)?.node;
    return now ? ((valueAt(now.props, path) as unknown as TextJson) ?? null) : null;
  };
  const look = async () => {
    setBusy(true);
    await session.finish();
    const lang = String(doc.root.props.lang);
    const all = await Promise.all(
      texts.map(async ({ path }) => {
        const text = textAt(path);
        const paragraphs = text ? lettersIn(text).map((one) => one.letters) : [];
        const advice = await askHelper(campaign, { about: "text", paragraphs, lang });
        return advice && { path, advice };
      }),
    );
    setBusy(false);
    const known = all.filter((one): one is Advised => one !== null);
    if (known.length < all.length) say("The helper cannot be reached now.", "wrong");
    setAdvised(known);
  };
  const drop = (gone: Proposal) =>
    setAdvised(
      (before) =>
        before?.map(({ path, advice }) => ({
          path,
          advice: { ...advice, proposals: advice.proposals.filter((one) => one !== gone) },
        })) ?? null,
    );
  const take = (path: readonly string[], proposal: Proposal) => {
    const text = textAt(path);
    const own = text && lettersIn(text)[proposal.paragraph];
    const { from, to, before, after } = proposal;
    // Earlier proposals that were taken have moved the words; they are looked for where they stand now.
    const at = own?.letters.startsWith(before, from) ? from : (own?.letters.indexOf(before) ?? -1);
    if (!text || !own || at < 0) {
      say("These words have changed since.");
      return drop(proposal);
    }
    const place = { from: own.start + at, to: own.start + at + (to - from) };
    const steps = replaceFound(text, [place], after);
    const taken = ownStep([{ type: "text", node: node.id, path: [...path], steps }]);
    if (edit(taken)) drop(proposal);
  };

  const proposals = advised?.flatMap(({ path, advice }) =>
    advice.proposals.map((proposal) => ({ path, proposal })),
  );
  const remarks = advised?.flatMap(({ advice }) => advice.remarks) ?? [];
  const readability = advised?.find(({ advice }) => advice.readability)?.advice.readability;
  return (
    <Section title="Writing">
      {readability && (
        <p className="text-small" data-readability={readability.ease}>
          {readability.words} words, {easeWords(readability.ease)}{" "}
          <span className="text-ink-3">(reading ease {readability.ease} of 100)</span>
        </p>
      )}
      {proposals && proposals.length > 0 && (
        <ul aria-label="Proposals" className="flex flex-col gap-1.5">
          {proposals.map(({ path, proposal }) => (
            <li
              key={`${path.join(".")}${proposal.paragraph}.${proposal.from}`}
              className="rounded-md border bg-sheet px-2.5 py-1.5 text-small"
            >
              <div>
                <s className="text-ink-3">{proposal.before}</s>{" "}
                <strong>{proposal.after || "(nothing)"}</strong>
              </div>
              <div className="flex items-center gap-2.5 text-small">
                <span className="flex-1 text-ink-3">{proposal.reason}</span>
                <button
                  type="button"
                  className="link text-small"
                  onClick={() => take(path, proposal)}
                >
                  Apply
                </button>
                <button
                  type="button"
                  className="text-ink-2 hover:underline"
                  onClick={() => drop(proposal)}
                >
                  Ignore
                </button>
              </div>
            </li>
          ))}
        </ul>
      )}
      {remarks.length > 0 && (
        <ul aria-label="Remarks" className="flex flex-col gap-1 text-small">
          {remarks.map(({ words, reason }, i) => (
            <li key={i} className="border-l-[3px] border-saffron pl-2">
              <strong>{words}</strong> <span className="text-ink-2">{reason}</span>
            </li>
          ))}
        </ul>
      )}
      {proposals?.length === 0 && remarks.length === 0 && (
        <p className="text-small text-ink-2">Nothing to propose.</p>
      )}
      <div>
        <Button disabled={busy} onClick={() => void look()}>
          {busy ? "One moment…" : advised ? "Look again" : "Look at the words"}
        </Button>
      </div>
    </Section>
  );
}
