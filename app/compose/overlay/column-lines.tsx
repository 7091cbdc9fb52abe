/** The lines between the columns of the chosen band: dragged, they change the widths of their neighbours. */
import { useState } from "react";
import { type DocNode, pathTo } from "#core/document/index.ts";
import { setShares, sharesOf, withLine } from "../doing/column-widths.ts";
import { useCommands } from "../doing/commands.ts";
import { usePlacing } from "../placing/placing.ts";
import { useReadingNow } from "../reading/reading.ts";
import { useSelection } from "../selection/selection.ts";
import type { SheetView } from "../sheets/view.ts";

/** Empty columns are low; their line can be taken hold of all the same, px. */
const LEAST_HEIGHT = 28;

function Line({
  band,
  index,
  view,
  scale,
}: {
  band: DocNode;
  /** Between this column and the next. */
  index: number;
  view: SheetView;
  scale: number;
}) {
  const { edit } = useCommands();
  const [drag, setDrag] = useState<{ from: number; by: number } | null>(null);
  const left = view.boxOf(band.children[index]!.id);
  const right = view.boxOf(band.children[index + 1]!.id);
  // Where they stand one under another there is no line between them.
  if (!left || !right || Math.abs(left.y - right.y) > 2 || left.x === right.x) return null;
  const mirrored = right.x < left.x;
  const x = mirrored ? left.x : right.x;
  const boxes = band.children.map((column) => view.boxOf(column.id)?.width ?? 0);
  const whole = boxes.reduce((sum, width) => sum + width, 0) * scale;
  const shares = sharesOf(band);
  const moved = (by: number) => withLine(shares, index, ((mirrored ? -by : by) / whole) * 100);
  const shown = drag ? moved(drag.by) : shares;
  const name = `Line between column ${index + 1} and ${index + 2}`;
  const step = (by: number) => edit(setShares(band, withLine(shares, index, by)));
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label={name}
      aria-valuenow={shown[index]!}
      aria-valuemin={0}
      aria-valuemax={100}
      tabIndex={0}
      data-line={index}
      className="pointer-events-auto absolute z-10 -ml-1.5 flex w-3 cursor-col-resize justify-center"
      style={{
        left: x * scale + (drag?.by ?? 0),
        top: Math.min(left.y, right.y) * scale,
        height: Math.max(LEAST_HEIGHT, Math.max(left.height, right.height) * scale),
      }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setDrag({ from: event.clientX, by: 0 });
      }}
      onPointerMove={(event) => {
        if (drag) setDrag({ ...drag, by: event.clientX - drag.from });
      }}
      onPointerUp={() => {
        if (drag && drag.by !== 0) edit(setShares(band, moved(drag.by)));
        setDrag(null);
      }}
      onPointerCancel={() => setDrag(null)}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        step((mirrored ? -by : by) * (event.shiftKey ? 10 : 1));
      }}
    >
      <span className="h-full w-0.5 bg-plum" />
      {drag && (
        <span className="absolute top-1/2 rounded-full bg-plum px-2 py-0.5 text-fine font-semibold whitespace-nowrap text-on-plum">
          {shown[index]} : {shown[index + 1]}
        </span>
      )}
    </div>
  );
}

export function ColumnLines({ view, scale }: { view: SheetView; scale: number }) {
  const { selected } = useSelection("selected");
  const band = useReadingNow(({ doc }) => {
    const [, band] = selected ? pathTo(doc, selected) : [];
    return band && band.children.length > 1 ? band : null;
  });
  const carrying = usePlacing(({ load }) => load !== null);
  if (!band || carrying) return null;
  return band.children
    .slice(0, -1)
    .map((column, i) => <Line key={column.id} band={band} index={i} view={view} scale={scale} />);
}
