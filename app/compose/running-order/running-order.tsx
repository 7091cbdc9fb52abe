/** The list of bands and blocks, top to bottom: the keyboard's way through the email. */
import { useDraggable } from "@dnd-kit/core";
import clsx from "clsx";
import { useEffect, useRef } from "react";
import type { EmailProps } from "#core/blocks/layout.ts";
import { nameOf } from "#core/blocks/names.ts";
import { type DocNode, type EmailDocument, pathTo } from "#core/document/index.ts";
import { lineWords } from "#core/merge/index.ts";
import { type ConditionalPart, conditionalParts, reachOf } from "#core/versions/index.ts";
import { ruleWords } from "../../rules/words.ts";
import { count } from "../../ui/words.ts";
import { readingOrder } from "../actions.ts";
import { useComposer } from "../context.ts";
import type { Landing } from "../landing.ts";
import { LandingLine } from "../overlay/landing-line.tsx";

/** A mark for what the checks find about a row. */
function Found({ at }: { at: string }) {
  const { inspection } = useComposer();
  const own = inspection?.findings.filter((one) => one.at === at) ?? [];
  if (own.length === 0) return null;
  const stops = own.some((one) => one.severity === "stop");
  return (
    <span
      title={own.map((one) => one.message).join("\n")}
      data-found={own.length}
      className={clsx(
        "ml-auto flex size-4 flex-none items-center justify-center rounded-full text-[10px] font-semibold",
        stops ? "bg-rust text-paper" : "bg-saffron-soft text-saffron-ink",
      )}
    >
      <span aria-hidden>{own.length}</span>
      <span className="sr-only">, {own.map((one) => one.message).join(", ")}</span>
    </span>
  );
}

function Row({
  node,
  level,
  schematic,
  part,
}: {
  node: DocNode;
  /** For some readers only: when it is shown. */
  part: ConditionalPart | undefined;
  level: number;
  /** How many columns a band has. */
  schematic?: number;
}) {
  const { selected, chosen, select, whoSees } = useComposer();
  const on = chosen.includes(node.id);
  const current = selected === node.id;
  const element = useRef<HTMLElement | null>(null);
  const { setNodeRef, listeners } = useDraggable({
    id: `order:${node.id}`,
    data: { load: { kind: "nodes", ids: on ? chosen : [node.id] } },
  });
  useEffect(() => {
    if (!current) return;
    element.current?.scrollIntoView({ block: "nearest" });
    // Where the arrows lead, the focus goes; elsewhere it is left alone.
    if (document.activeElement?.closest("[role=tree]")) element.current?.focus();
  }, [current]);
  const show = node.props.show;
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled for the whole composer
    <div
      ref={(at) => {
        element.current = at;
        setNodeRef(at);
      }}
      {...listeners}
      role="treeitem"
      aria-level={level}
      aria-selected={on}
      tabIndex={current ? 0 : -1}
      data-order={node.id}
      onClick={(event) =>
        select(
          node.id,
          event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "toggle" : "one",
        )
      }
      className={clsx(
        "flex cursor-default items-center gap-2 border-l-[3px] py-[3px] pr-2 select-none focus-visible:-outline-offset-2",
        level === 1 ? "mt-1.5 pl-2.5 font-semibold" : "text-[12px] text-ink-2",
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
      <Found at={node.id} />
      {part && (
        <span
          className="ml-auto flex-none rounded-full bg-saffron-soft px-1.5 text-[10.5px] font-semibold text-saffron-ink"
          title={ruleWords(part.seen.seenBy, whoSees, part.seen.chain !== null)}
          data-row-reach
        >
          {part.seen.chain !== null && "⋯ "}
          {whoSees ? count(reachOf(part.when, whoSees.conditions, whoSees.groups)) : "some"}
          <span className="sr-only"> see it</span>
        </span>
      )}
      {(show === "wide" || show === "narrow") && (
        <span className="ml-auto flex-none text-[10.5px] text-ink-3">only {show}</span>
      )}
    </div>
  );
}

function Envelope() {
  const { shown, reader, tags, selected, select } = useComposer();
  const { envelope } = shown.root.props as unknown as EmailProps;
  const words = (text: EmailProps["envelope"]["subject"]) => lineWords(text, reader, tags);
  const on = selected === "envelope";
  const subject = words(envelope.subject);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled for the whole composer
    <div
      role="treeitem"
      aria-level={1}
      aria-selected={on}
      tabIndex={on || !selected ? 0 : -1}
      data-order="envelope"
      onClick={() => select("envelope")}
      className={clsx(
        "mx-2.5 cursor-default rounded-md border bg-sheet px-2.5 py-2",
        on && "outline-2 outline-plum",
      )}
    >
      <span className="sr-only">Envelope: </span>
      <div className="flex items-center gap-1 text-[11.5px] text-ink-2">
        <span className="min-w-0 flex-1 truncate">{words(envelope.fromName) || "No sender"}</span>
        <Found at="envelope" />
      </div>
      <div className={clsx("truncate font-semibold", subject || "text-ink-3")}>
        {subject || "No subject yet"}
      </div>
      <div className="line-clamp-2 text-[11.5px] text-ink-3">
        {words(envelope.preview) || "No preview text"}
      </div>
    </div>
  );
}

/** Bands are on the first level, blocks on the second; columns have none of their own. */
const levelOf = (doc: EmailDocument, node: DocNode): number =>
  pathTo(doc, node.id).filter((one) => one.type !== "column").length - 1;

/** The list, with the line where something would land in it. */
export function RunningOrder({ landing }: { landing: Landing | null }) {
  const { doc, selected } = useComposer();
  const shown = readingOrder(doc, selected);
  const parts = new Map(
    conditionalParts(doc)
      .filter(({ words }) => words === null)
      .map((part) => [part.node, part]),
  );
  const bandOf = new Map<DocNode, DocNode>();
  let band: DocNode | null = null;
  for (const node of shown) {
    if (node.type === "band") band = node;
    if (band) bandOf.set(node, band);
  }
  return (
    <nav
      aria-label="Running order"
      data-pane="order"
      className="flex min-h-0 flex-col overflow-y-auto border-r pb-6"
    >
      <h2 className="px-3 pt-2 pb-1.5 text-[15px]">Running order</h2>
      <div role="tree" aria-label="Running order" aria-multiselectable className="relative">
        {landing && <LandingLine landing={landing} scale={1} />}
        <Envelope />
        {doc.root.children.map((band) => (
          <div key={band.id} role="group" aria-label={nameOf(band)} className="order-band">
            <Row node={band} level={1} schematic={band.children.length} part={parts.get(band)} />
            {shown
              .filter((node) => bandOf.get(node) === band && node !== band)
              .map((node) => (
                <Row key={node.id} node={node} level={levelOf(doc, node)} part={parts.get(node)} />
              ))}
          </div>
        ))}
      </div>
    </nav>
  );
}
