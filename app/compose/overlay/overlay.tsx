/** What is drawn above a sheet: outlines, the grip of the selection, the landing line. */
import { useDraggable } from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import { nameOf } from "#core/blocks/names.ts";
import { type DocNode, type EmailDocument, find } from "#core/document/index.ts";
import type { Seen } from "#core/text/index.ts";
import { conditionalParts, reachOf } from "#core/versions/index.ts";
import { ruleWords } from "../../rules/words.ts";
import { count } from "../../ui/words.ts";
import { useComposer } from "../context.ts";
import type { Landing } from "../landing.ts";
import { type Load, labelOfLoad } from "../load.ts";
import type { Box, SheetView } from "../sheets/view.ts";
import { chainOf } from "../who/actions.ts";
import { ColumnLines } from "./column-lines.tsx";
import { LandingLine } from "./landing-line.tsx";

const scaled = (box: Box, scale: number) => ({
  left: box.x * scale,
  top: box.y * scale,
  width: box.width * scale,
  height: box.height * scale,
});

function Grip({
  id,
  name,
  view,
  scale,
}: {
  id: string;
  name: string;
  view: SheetView;
  scale: number;
}) {
  const { doc, chosen } = useComposer();
  const node = find(doc, id)?.node;
  const load: Load = { kind: "nodes", ids: chosen.includes(id) ? chosen : [id] };
  const { setNodeRef, listeners } = useDraggable({
    id: `${view.frame.title}:${id}`,
    data: { load },
  });
  const box = view.boxOf(id);
  if (!box || node?.type === "column") return null;
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      data-grip={id}
      className="pointer-events-auto absolute flex cursor-grab items-center gap-1 rounded-md rounded-bl-none bg-plum py-0.5 pr-2 pl-1 text-[11px] font-semibold whitespace-nowrap text-on-plum select-none"
      style={{ left: box.x * scale - 2, top: Math.max(0, box.y * scale - 22) }}
    >
      <GripVertical className="size-3.5" aria-hidden />{" "}
      {chosen.length > 1 ? labelOfLoad(doc, load) : name}
    </div>
  );
}

/** Which alternative of its chain a part is, where it is one. */
const chainLetter = (doc: EmailDocument, node: DocNode, { chain }: Seen): string =>
  chain === null ? "" : `${String.fromCharCode(65 + (chainOf(doc, node).indexOf(node) % 26))} · `;

export function Overlay({
  view,
  scale,
  hovered,
  landing,
  writing,
}: {
  view: SheetView;
  scale: number;
  /** Changes with every layout of the frame. */
  layout: number;
  hovered: string | null;
  landing: Landing | null;
  writing: string | null;
}) {
  const { doc, selected, chosen, placing, others, everything, whoSees } = useComposer();
  const { load } = placing;
  const selectedNode = selected ? find(doc, selected)?.node : undefined;
  const selectedBox =
    selectedNode && selectedNode !== doc.root ? view.boxOf(selectedNode.id) : null;
  const hoveredNode = hovered && hovered !== selected ? find(doc, hovered)?.node : undefined;
  const hoveredBox = hoveredNode && hoveredNode !== doc.root ? view.boxOf(hoveredNode.id) : null;
  return (
    <div className="on-sheet pointer-events-none absolute inset-0 overflow-visible">
      {others.map(({ tab, name, at }) => {
        const box = at && view.boxOf(at);
        return (
          box && (
            <div
              key={tab}
              data-other={name}
              className="absolute outline-1 outline-ink-3 outline-dashed"
              style={scaled(box, scale)}
            >
              <span className="absolute top-full right-0 rounded-b-md bg-ink-3 px-1.5 text-[10.5px] font-semibold text-paper">
                {name}
              </span>
            </div>
          )
        );
      })}
      {everything &&
        conditionalParts(doc).map(({ node, words, seen, when }) => {
          const box = words === null && view.boxOf(node.id);
          return (
            box && (
              <div
                key={node.id}
                data-for-some={node.id}
                title={ruleWords(seen.seenBy, whoSees, seen.chain !== null)}
                className="absolute border-saffron border-l-4"
                style={scaled(box, scale)}
              >
                {/* Between this part and the one before, where no words stand. */}
                <span className="absolute -top-2 right-0 rounded-l-md bg-saffron-soft px-1.5 text-[10.5px] font-semibold text-saffron-ink">
                  {chainLetter(doc, node, seen)}
                  {whoSees && count(reachOf(when, whoSees.conditions, whoSees.groups))}
                </span>
              </div>
            )
          );
        })}
      {hoveredBox && hoveredNode && !load && (
        <div className="absolute outline-1 outline-plum" style={scaled(hoveredBox, scale)}>
          <span className="absolute right-0 bottom-full rounded-t-md bg-plum-soft px-1.5 text-[10.5px] font-semibold text-plum">
            {nameOf(hoveredNode)}
          </span>
        </div>
      )}
      {chosen.map((id) => {
        const box = id !== selected && view.boxOf(id);
        return (
          box && (
            <div
              key={id}
              className="absolute rounded-sm outline-2 outline-plum"
              data-selected={id}
              style={scaled(box, scale)}
            />
          )
        );
      })}
      {selectedBox && selectedNode && writing !== selectedNode.id && (
        <>
          <div
            className="absolute rounded-sm outline-2 outline-plum"
            data-selected={selectedNode.id}
            style={scaled(selectedBox, scale)}
          />
          <Grip id={selectedNode.id} name={nameOf(selectedNode)} view={view} scale={scale} />
        </>
      )}
      {!writing && <ColumnLines view={view} scale={scale} />}
      {landing && <LandingLine landing={landing} scale={scale} />}
    </div>
  );
}
