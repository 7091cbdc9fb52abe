/** A rule written on the spot, over whatever it is for: the builder with its reach beside it. */
import { type ReactNode, useEffect, useState } from "react";
import { EVERYBODY, type Rule, ruleSchema } from "#core/rules/index.ts";
import { answerTo } from "../ask.ts";
import { Button } from "../ui/button.tsx";
import { Dialog } from "../ui/dialog.tsx";
import { type DraftGroup, draftGroupOf, ruleOf } from "./draft.ts";
import { ReachPanel } from "./reach-panel.tsx";
import { RuleBuilder } from "./rule-builder.tsx";
import type { Vocabulary } from "./vocabulary.ts";

/** What rules can speak of, as things are now. */
function useVocabulary(from: string): { vocabulary: Vocabulary | null; failed: boolean } {
  const [vocabulary, setVocabulary] = useState<Vocabulary | null>(null);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    const stop = new AbortController();
    void answerTo<Vocabulary>(from, { signal: stop.signal }).then((known) => {
      if (stop.signal.aborted) return;
      if (known) setVocabulary(known);
      else setFailed(true);
    });
    return () => stop.abort();
  }, [from]);
  return { vocabulary, failed };
}

interface Props {
  title: string;
  /** The rule that stands; null for none yet. */
  rule: Rule | null;
  /** What the button says that takes the rule. */
  use: string;
  /** The campaign whose readers the reach is counted among. */
  campaign?: string | null;
  /** Where it is told what the rule can speak of, for rules over something else than people: nobody is reached by those. */
  vocabulary?: string;
  onUse: (rule: Rule) => void;
  /** Opened by this, or from outside by `open`. */
  trigger?: ReactNode;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  keepFocus?: boolean;
}

export function RuleDialog({ title, trigger, onOpenChange, keepFocus, ...rest }: Props) {
  const [own, setOwn] = useState(false);
  const open = rest.open ?? own;
  const change = (next: boolean) => {
    setOwn(next);
    onOpenChange?.(next);
  };
  return (
    <Dialog
      title={title}
      trigger={trigger}
      wide
      keepFocus={keepFocus}
      open={open}
      onOpenChange={change}
    >
      {open && <Writing {...rest} onDone={() => change(false)} />}
    </Dialog>
  );
}

/** The builder itself: made anew each time, from the rule that stands. */
function Writing({
  rule,
  use,
  campaign = null,
  vocabulary: from,
  onUse,
  onDone,
}: Pick<Props, "rule" | "use" | "campaign" | "vocabulary" | "onUse"> & { onDone: () => void }) {
  const [draft, setDraft] = useState<DraftGroup>(() => draftGroupOf(rule ?? EVERYBODY));
  const { vocabulary, failed } = useVocabulary(from ?? "/people/vocabulary");
  const made = ruleOf(draft);
  const complete = ruleSchema.safeParse(made).success && draft.rules.length > 0;
  if (failed)
    return <p className="text-rust">The fields could not be read. Check your connection.</p>;
  if (!vocabulary) return null;
  return (
    <div
      className={from ? "" : "grid grid-cols-[1fr_240px] gap-8 max-md:grid-cols-[minmax(0,1fr)]"}
    >
      <div className="flex flex-col">
        <RuleBuilder draft={draft} vocabulary={vocabulary} onChange={setDraft} />
        <div className="mt-4 flex gap-2">
          <Button
            primary
            disabled={!complete}
            onClick={() => {
              onDone();
              onUse(made);
            }}
          >
            {use}
          </Button>
        </div>
      </div>
      {!from && (
        <aside aria-label="Reach" className="border-l pl-6">
          <ReachPanel rule={made} campaign={campaign} />
        </aside>
      )}
    </div>
  );
}
