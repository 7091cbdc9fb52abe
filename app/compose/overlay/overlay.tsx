/** What is drawn above a sheet: outlines, the grip of the selection, the landing line. */
import { GripVertical } from "lucide-react";
import { nameOf } from "#core/blocks/names.ts";
import { type DocNode, type EmailDocument, find } from "#core/document/index.ts";
import type { Seen } from "#core/text/index.ts";
import { conditionalParts, reachOf } from "#core/versions/index.ts";
import { ruleWords } from "../../rules/words.ts";
import { count } from "../../ui/words.ts";
import { useCarrying } from "../placing/carrying.tsx";
import { type Load, labelOfLoad } from "../placing/load.ts";
import { usePlacing } from "../placing/placing.ts";
import { useReader, useReadingNow } from "../reading/reading.ts";
import { useSelection } from "../selection/selection.ts";
import { useEmail } from "../session/session.ts";
import type { Box, SheetView } from "../sheets/view.ts";
import type { SheetName } from "../sheets/views.ts";
import { useWriting } from "../sheets/writer.ts";
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
  const { chosen } = useSelection("chosen");
  const load: Load = { kind: "nodes", ids: chosen.includes(id) ? chosen : [id] };
  const label = useReadingNow(({ doc }) => (chosen.length > 1 ? labelOfLoad(doc, load) : name));
  const press = useCarrying();
  const box = view.boxOf(id);
  if (!box) return null;
  return (
    <div
      onPointerDown={(event) => press(event, load)}
      data-grip={id}
      className="pointer-events-auto absolute flex cursor-grab items-center gap-1 rounded-md rounded-bl-none bg-plum py-0.5 pr-2 pl-1 text-fine font-semibold whitespace-nowrap text-on-plum select-none"
      style={{ left: box.x * scale - 2, top: Math.max(0, box.y * scale - 22) }}
    >
      <GripVertical className="size-3.5" aria-hidden /> {label}
    </div>
  );
}

/** Which alternative of its chain a part is, where it is one. */
const chainLetter = (doc: EmailDocument, node: DocNode, { chain }: Seen): string =>
  chain === null ? "" : `${String.fromCharCode(65 + (chainOf(doc, node).indexOf(node) % 26))} · `;

interface Above {
  readonly view: SheetView;
  readonly scale: number;
}

/** Where others are. */
function Others({ view, scale }: Above) {
  const { others } = useEmail("others");
  return others.map(({ tab, name, at }) => {
    const box = at && view.boxOf(at);
    return (
      box && (
        <div
          key={tab}
          data-other={name}
          className="absolute outline-1 outline-ink-3 outline-dashed"
          style={scaled(box, scale)}
        >
          <span className="absolute top-full right-0 rounded-b-md bg-ink-3 px-1.5 text-fine font-semibold text-paper">
            {name}
          </span>
        </div>
      )
    );
  });
}

/** What only some readers see. */
function ForSome({ view, scale }: Above) {
  const { doc, whoSees } = useReadingNow("doc", "whoSees");
  return conditionalParts(doc).map(({ node, words, seen, when }) => {
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
          <span className="absolute -top-2 right-0 rounded-l-md bg-saffron-soft px-1.5 text-fine font-semibold text-saffron-ink">
            {chainLetter(doc, node, seen)}
            {whoSees && count(reachOf(when, whoSees.conditions, whoSees.groups))}
          </span>
        </div>
      )
    );
  });
}

/** What the pointer is over. */
function Hovered({ view, scale }: Above) {
  const id = useSelection(({ hovered, selected }) => (hovered === selected ? null : hovered));
  const carrying = usePlacing(({ load }) => load !== null);
  // Its name is read when the pointer comes to it.
  const { store } = useReader();
  const { doc } = store.getState();
  const node = id === null || carrying ? undefined : find(doc, id)?.node;
  const box = node && node !== doc.root ? view.boxOf(node.id) : null;
  if (!node || !box) return null;
  return (
    <div className="absolute outline-1 outline-plum" style={scaled(box, scale)}>
      <span className="absolute right-0 bottom-full rounded-t-md bg-plum-soft px-1.5 text-fine font-semibold text-plum">
        {nameOf(node)}
      </span>
    </div>
  );
}

/** What is chosen, with the grip of the selection. */
function Chosen({ view, name, scale }: Above & { name: SheetName }) {
  const { selected, chosen } = useSelection("selected", "chosen");
  // Of the email it reads the name and the type alone: most edits leave both as they are.
  const called = useReadingNow(({ doc }) => {
    const node = selected ? find(doc, selected)?.node : undefined;
    return node && node !== doc.root ? nameOf(node) : null;
  });
  const isColumn = useReadingNow(
    ({ doc }) => selected !== null && find(doc, selected)?.node.type === "column",
  );
  const writing = useWriting((state) => (state.writing?.on === name ? state.writing.node : null));
  const box = selected && called !== null ? view.boxOf(selected) : null;
  return (
    <>
      {chosen.map((id) => {
        const other = id !== selected && view.boxOf(id);
        return (
          other && (
            <div
              key={id}
              className="absolute rounded-sm outline-2 outline-plum"
              data-selected={id}
              style={scaled(other, scale)}
            />
          )
        );
      })}
      {box && selected && called !== null && writing !== selected && (
        <>
          <div
            className="absolute rounded-sm outline-2 outline-plum"
            data-selected={selected}
            style={scaled(box, scale)}
          />
          {!isColumn && <Grip id={selected} name={called} view={view} scale={scale} />}
        </>
      )}
      {!writing && <ColumnLines view={view} scale={scale} />}
    </>
  );
}

/** Where something would land on this sheet. */
function Landing({ name, scale }: { name: SheetName; scale: number }) {
  const landing = usePlacing(({ landed }) => (landed?.on === name ? landed.at : null));
  return landing && <LandingLine landing={landing} scale={scale} />;
}

export function Overlay({
  view,
  name,
  scale,
}: Above & {
  name: SheetName;
  /** Changes with every layout of the frame: then all of this is placed again. */
  layout: number;
}) {
  const { everything } = useReadingNow("everything");
  return (
    <div className="on-sheet pointer-events-none absolute inset-0 overflow-visible">
      <Others view={view} scale={scale} />
      {everything && <ForSome view={view} scale={scale} />}
      <Hovered view={view} scale={scale} />
      <Chosen view={view} name={name} scale={scale} />
      <Landing name={name} scale={scale} />
    </div>
  );
}
