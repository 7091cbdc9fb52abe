/** The list of bands and blocks, top to bottom: the keyboard's way through the email. */
import clsx from "clsx";
import { MessageSquare } from "lucide-react";
import {
  type FocusEvent,
  memo,
  startTransition,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
} from "react";
import { useShallow } from "zustand/react/shallow";
import type { EmailProps } from "#core/blocks/layout.ts";
import { nameOf } from "#core/blocks/names.ts";
import { type DocNode, type EmailDocument, pathTo } from "#core/document/index.ts";
import { lineWords } from "#core/merge/index.ts";
import { type ConditionalPart, conditionalParts, reachOf } from "#core/versions/index.ts";
import { asking, isStopped } from "../../marks.ts";
import { ruleWords } from "../../rules/words.ts";
import { count, counted } from "../../ui/words.ts";
import { openAt, useComments } from "../comments/kept.ts";
import { readingOrder } from "../doing/actions.ts";
import { type FindingsState, useFindings } from "../inspecting/findings.ts";
import { LandingLine } from "../overlay/landing-line.tsx";
import { useCarrying } from "../placing/carrying.tsx";
import { usePlacing } from "../placing/placing.ts";
import { useReading } from "../reading/reading.ts";
import { useSelecting, useSelection } from "../selection/selection.ts";

/** A mark for what the checks find about a row. */
function Found({ at }: { at: string }) {
  const own = useFindings(
    useShallow(({ inspection }: FindingsState) =>
      asking(inspection?.findings.filter((one) => one.at === at) ?? []),
    ),
  );
  if (own.length === 0) return null;
  return (
    <span
      title={own.map((one) => one.message).join("\n")}
      data-found={own.length}
      className={clsx(
        "ml-auto flex size-4 flex-none items-center justify-center rounded-full text-fine font-semibold",
        isStopped(own) ? "bg-rust text-paper" : "bg-saffron-soft text-saffron-ink",
      )}
    >
      <span aria-hidden>{own.length}</span>
      <span className="sr-only">, {own.map((one) => one.message).join(", ")}</span>
    </span>
  );
}

/** A mark for comments that are open about a row. */
function Said({ at }: { at: string }) {
  const open = useComments(openAt(at));
  if (open === 0) return null;
  return (
    <span className="flex-none text-plum" title={counted(open, "comment")}>
      <MessageSquare aria-hidden className="size-3" />
      <span className="sr-only">, {counted(open, "comment")}</span>
    </span>
  );
}

/** How many readers see a part that only some see. */
function Reach({ part: { seen, when } }: { part: ConditionalPart }) {
  const { whoSees } = useReading("whoSees");
  return (
    <span
      className="ml-auto flex-none rounded-full bg-saffron-soft px-1.5 text-fine font-semibold text-saffron-ink"
      title={ruleWords(seen.seenBy, whoSees, seen.chain !== null)}
      data-row-reach
    >
      {seen.chain !== null && "⋯ "}
      {whoSees ? count(reachOf(when, whoSees.conditions, whoSees.groups)) : "some"}
      <span className="sr-only"> see it</span>
    </span>
  );
}

interface RowProps {
  readonly node: DocNode;
  /** The Tab key stops here. */
  readonly stop: boolean;
  /** For some readers only: when it is shown. */
  readonly part: ConditionalPart | undefined;
  readonly level: number;
  /** How many columns a band has. */
  readonly schematic?: number;
}

const Row = memo(function Row({ node, level, schematic, part, stop }: RowProps) {
  const { select, store } = useSelecting();
  const press = useCarrying();
  const on = useSelection(({ chosen }) => chosen.includes(node.id));
  const current = useSelection(({ selected }) => selected === node.id);
  const element = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!current) return;
    // Where the arrows lead, the focus goes; elsewhere it is left alone.
    if (document.activeElement?.closest("[role=tree]")) element.current?.focus();
    // With the next frame, which lays out the page anyway.
    const frame = requestAnimationFrame(() =>
      element.current?.scrollIntoView({ block: "nearest" }),
    );
    return () => cancelAnimationFrame(frame);
  }, [current]);
  const show = node.props.show;
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled for the whole composer
    <div
      ref={element}
      onPointerDown={(event) => {
        // What is chosen goes along with one of it.
        const { chosen } = store.getState();
        const ids = chosen.includes(node.id) ? chosen : [node.id];
        press(event, { kind: "nodes", ids });
      }}
      role="treeitem"
      aria-level={level}
      aria-selected={on}
      tabIndex={stop ? 0 : -1}
      data-order={node.id}
      onClick={(event) =>
        select(
          node.id,
          event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "toggle" : "one",
        )
      }
      className={clsx(
        "flex cursor-default items-center gap-2 border-l-[3px] py-[3px] pr-2 select-none focus-visible:-outline-offset-2",
        level === 1 ? "mt-1.5 pl-2.5 font-semibold" : "text-small text-ink-2",
        on ? "border-plum bg-plum-soft text-plum" : "border-transparent hover:bg-bench",
      )}
      style={level > 1 ? { paddingLeft: 12 + level * 14 } : undefined}
    >
      {schematic !== undefined && (
        <span
          aria-hidden
          className="flex h-3 w-5 flex-none gap-px border border-line-strong bg-sheet p-px"
        >
          {Array.from({ length: schematic }, (_, i) => (
            <span key={i} className="flex-1 bg-line-strong" />
          ))}
        </span>
      )}
      <span className="truncate" data-row-name="">
        {nameOf(node)}
      </span>
      <Said at={node.id} />
      <Found at={node.id} />
      {part && <Reach part={part} />}
      {(show === "wide" || show === "narrow") && (
        <span className="ml-auto flex-none text-fine text-ink-3">only {show}</span>
      )}
    </div>
  );
});

function Envelope({ stop }: { stop: boolean }) {
  const { shown, reader, tags } = useReading("shown", "reader", "tags");
  const { select } = useSelecting();
  const on = useSelection(({ selected }) => selected === "envelope");
  const { envelope } = shown.root.props as unknown as EmailProps;
  const words = (text: EmailProps["envelope"]["subject"]) => lineWords(text, reader, tags);
  const subject = words(envelope.subject);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled for the whole composer
    <div
      role="treeitem"
      aria-level={1}
      aria-selected={on}
      tabIndex={stop ? 0 : -1}
      data-order="envelope"
      onClick={() => select("envelope")}
      className={clsx(
        "mx-2.5 cursor-default rounded-md border bg-sheet px-2.5 py-2",
        on && "outline-2 outline-plum",
      )}
    >
      <span className="sr-only">Envelope: </span>
      <div className="flex items-center gap-1 text-small text-ink-2">
        <span className="min-w-0 flex-1 truncate">{words(envelope.fromName) || "No sender"}</span>
        <Found at="envelope" />
      </div>
      <div className={clsx("truncate font-semibold", subject || "text-ink-3")}>
        {subject || "No subject yet"}
      </div>
      <div className="line-clamp-2 text-small text-ink-3">
        {words(envelope.preview) || "No preview text"}
      </div>
    </div>
  );
}

/** The level of every piece: bands are on the first, blocks on the second; columns have none of their own. */
function levelsOf({ root }: EmailDocument): Map<DocNode, number> {
  const levels = new Map<DocNode, number>();
  const visit = (nodes: readonly DocNode[], level: number) => {
    for (const node of nodes) {
      levels.set(node, level);
      visit(node.children, node.type === "column" ? level : level + 1);
    }
  };
  visit(root.children, 1);
  return levels;
}

/** Where the Tab key stops: at what is selected, or at the nearest around it that has a row. */
function stopOf(doc: EmailDocument, shown: readonly DocNode[], selected: string | null): string {
  const rows = new Set(shown);
  const path = selected === null || selected === "envelope" ? [] : pathTo(doc, selected);
  return path.findLast((node) => rows.has(node))?.id ?? "envelope";
}

/** Where something would land in the list. */
function Landing() {
  const landing = usePlacing(({ landed }) => (landed?.on === "order" ? landed.at : null));
  return landing && <LandingLine landing={landing} scale={1} />;
}

/** So many rows are there at once; more are not seen without scrolling. */
const FIRST_ROWS = 50;

/** The first bands alone when the list is first drawn: the email itself is seen before the end of a long list is. */
function useBandsSoFar({ root }: EmailDocument, under: ReadonlyMap<DocNode, readonly DocNode[]>) {
  const [whole, setWhole] = useState(false);
  useEffect(() => startTransition(() => setWhole(true)), []);
  if (whole) return root.children;
  let rows = 0;
  return root.children.filter((band) => {
    const fits = rows < FIRST_ROWS;
    rows += 1 + under.get(band)!.length;
    return fits;
  });
}

/** The row that has the focus may go, by Delete or by somebody else: then the row has it where the Tab key stops. */
function useKeptFocus() {
  const tree = useRef<HTMLDivElement>(null);
  const inside = useRef(false);
  useLayoutEffect(() => {
    // What is taken away while it has the focus tells nobody that it lost it.
    if (!inside.current || document.activeElement !== document.body) return;
    tree.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus();
  });
  return {
    ref: tree,
    onFocus: () => {
      inside.current = true;
    },
    onBlur: ({ relatedTarget }: FocusEvent) => {
      inside.current = tree.current?.contains(relatedTarget as Element | null) ?? false;
    },
  };
}

export function RunningOrder() {
  const kept = useKeptFocus();
  const { doc } = useReading("doc");
  const { selected } = useSelection("selected");
  const shown = readingOrder(doc, selected);
  const stop = stopOf(doc, shown, selected);
  const parts = new Map(
    conditionalParts(doc)
      .filter(({ words }) => words === null)
      .map((part) => [part.node, part]),
  );
  const levels = levelsOf(doc);
  /** What stands under each band. */
  const under = new Map<DocNode, DocNode[]>();
  let blocks: DocNode[] = [];
  for (const node of shown) {
    if (node.type !== "band") blocks.push(node);
    else {
      blocks = [];
      under.set(node, blocks);
    }
  }
  const bands = useBandsSoFar(doc, under);
  return (
    <nav
      aria-label="Running order"
      data-pane="order"
      className="flex min-h-0 flex-col overflow-y-auto border-r pb-6 max-[560px]:hidden"
    >
      <h2 className="px-3 pt-2 pb-1.5 text-lead">Running order</h2>
      <div
        {...kept}
        role="tree"
        aria-label="Running order"
        aria-multiselectable
        className="relative"
      >
        <Landing />
        <Envelope stop={stop === "envelope"} />
        {bands.map((band) => (
          <div key={band.id} role="group" aria-label={nameOf(band)} className="order-band">
            <Row
              node={band}
              level={1}
              schematic={band.children.length}
              part={parts.get(band)}
              stop={stop === band.id}
            />
            {under.get(band)?.map((node) => (
              <Row
                key={node.id}
                node={node}
                level={levels.get(node)!}
                part={parts.get(node)}
                stop={stop === node.id}
              />
            ))}
          </div>
        ))}
      </div>
    </nav>
  );
}
