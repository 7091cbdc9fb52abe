/**
 * The contacts table: only the rows in sight are on the page, fetched a hundred at a time. Arrow keys move
 * from cell to cell, Enter writes in one, Space picks the row.
 */
import { type ColumnDef, getCoreRowModel, useReactTable } from "@tanstack/react-table";
import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import clsx from "clsx";
import { ArrowDown, ArrowUp } from "lucide-react";
import { type KeyboardEvent, useCallback, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import type { Field } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { ask, NO_LINE, wordsOf } from "../ask.ts";
import { Checkbox } from "../ui/checkbox.tsx";
import { Chip } from "../ui/page.tsx";
import { useToast } from "../ui/toast.tsx";
import { count, counted } from "../ui/words.ts";
import { CellForm } from "./cell-form.tsx";
import { type Row, useRows } from "./use-rows.ts";

const ROW = 34;

export interface TableView {
  readonly token: string;
  readonly total: number;
  /** The view's query, for asking for its rows. */
  readonly query: string;
  readonly sort: string;
  readonly down: boolean;
}

interface Props {
  view: TableView;
  /** Columns beside the address. */
  fields: readonly Field[];
  picked: ReadonlySet<number>;
  onPick: (ids: readonly number[], picked: boolean) => void;
  sortHref: (field: string) => string;
}

export function ContactTable({ view, fields, picked, onPick, sortHref }: Props) {
  const say = useToast();
  const scroller = useRef<HTMLDivElement>(null);
  const { rowAt, idsBetween, show, setCell } = useRows(view);
  /** The row that was picked last: with Shift all between are. */
  const last = useRef<number | null>(null);
  const [cell, setActive] = useState({ row: 0, column: 0 });
  const [writing, setWriting] = useState<{ id: number; row: number; column: number } | null>(null);
  const columns = useMemo<ColumnDef<Row>[]>(
    () => [
      { id: "email", header: "Email address", size: 270 },
      ...fields.map((field) => ({ id: field.id, header: field.label, size: 150 })),
      { id: "added", header: "Added", size: 100 },
    ],
    [fields],
  );
  const table = useReactTable({ data: [], columns, getCoreRowModel: getCoreRowModel() });
  const headers = table.getFlatHeaders();
  const width = 40 + headers.reduce((sum, header) => sum + header.getSize(), 0);
  const virtual = useVirtualizer({
    count: view.total,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
    // The row that is written in stays, wherever one looks meanwhile.
    rangeExtractor: (range) => {
      const shown = defaultRangeExtractor(range);
      return writing && !shown.includes(writing.row) ? [...shown, writing.row] : shown;
    },
    onChange: ({ range }) => range && show(range.startIndex, range.endIndex),
    initialRect: { width: 1200, height: 560 },
  });

  const focusCell = useCallback(
    (row: number, column: number) => {
      const next = {
        row: Math.min(view.total - 1, Math.max(0, row)),
        column: Math.min(headers.length - 1, Math.max(0, column)),
      };
      setActive(next);
      virtual.scrollToIndex(next.row);
      const focus = () => {
        const found = scroller.current?.querySelector<HTMLElement>(
          `[data-cell="${next.row}:${next.column}"]`,
        );
        found?.focus();
        return found;
      };
      // A row far away is drawn only once it is in sight.
      if (!focus()) requestAnimationFrame(focus);
    },
    [view.total, headers.length, virtual],
  );

  const onKeyDown = (event: KeyboardEvent) => {
    if ((event.target as Element).closest("form")) return;
    const page = Math.floor((scroller.current?.clientHeight ?? 500) / ROW) - 1;
    const moves: Record<string, [number, number]> = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
      PageDown: [page, 0],
      PageUp: [-page, 0],
    };
    const move = moves[event.key];
    const row = rowAt(cell.row);
    if (move) focusCell(cell.row + move[0], cell.column + move[1]);
    else if (event.key === "Home") focusCell(event.ctrlKey ? 0 : cell.row, 0);
    else if (event.key === "End") {
      focusCell(event.ctrlKey ? view.total - 1 : cell.row, headers.length - 1);
    } else if (event.key === " " && row) void pick(cell.row, !picked.has(row.id), event.shiftKey);
    else if (event.key === "Enter" && row && fields[cell.column - 1]) {
      setWriting({ id: row.id, ...cell });
    } else return;
    event.preventDefault();
  };

  async function pick(index: number, on: boolean, range: boolean) {
    const from = range && last.current !== null ? last.current : index;
    last.current = index;
    if (Math.abs(from - index) >= LIMITS.pickedAtOnce) {
      return say(`At most ${count(LIMITS.pickedAtOnce)} people are selected at once.`, "wrong");
    }
    const ids = await idsBetween(Math.min(from, index), Math.max(from, index));
    if (ids) onPick(ids, on);
    else say(NO_LINE, "wrong");
  }

  async function save(row: Row, field: Field, text: string, seen: string) {
    const body = new FormData();
    body.set("do", "save");
    body.set(`f.${field.id}`, text);
    body.set(`was.${field.id}`, seen);
    const path = `/people/contacts/${row.id}/values`;
    const reply = await ask<Record<"cells" | "seen", Record<string, string>>>(path, { body });
    if (reply.kind === "ok") setCell(row.id, reply.body.cells);
    else say(wordsOf(reply, "This was not saved."), "wrong");
    const known = reply.kind === "ok" || reply.kind === "refused" ? reply.body.seen : null;
    return { saved: reply.kind === "ok", now: known?.[field.id] };
  }

  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="Contacts"
      aria-rowcount={view.total + 1}
      aria-colcount={headers.length + 1}
      tabIndex={-1}
      onKeyDown={onKeyDown}
      className="h-[calc(100vh-268px)] min-h-72 overflow-auto border-y"
    >
      <div style={{ width, minWidth: "100%" }}>
        {/* biome-ignore lint/a11y/useFocusableInteractive: cells take the focus */}
        <div
          role="row"
          aria-rowindex={1}
          className="sticky top-0 z-10 flex border-line-strong border-b bg-paper"
        >
          <span role="columnheader" tabIndex={-1} className="w-10 flex-none">
            <span className="sr-only">Picked</span>
          </span>
          {headers.map((header) => (
            <span
              key={header.id}
              role="columnheader"
              tabIndex={-1}
              aria-sort={
                view.sort === header.id ? (view.down ? "descending" : "ascending") : "none"
              }
              className="flex-none px-2 py-2 text-small font-semibold text-ink-2"
              style={{ width: header.getSize() }}
            >
              <Link
                to={sortHref(header.id)}
                className="inline-flex items-center gap-1 hover:text-ink"
              >
                {String(header.column.columnDef.header)}
                {view.sort === header.id &&
                  (view.down ? <ArrowDown className="size-3" /> : <ArrowUp className="size-3" />)}
              </Link>
            </span>
          ))}
        </div>
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const row = rowAt(index);
            return (
              // biome-ignore lint/a11y/useFocusableInteractive: cells take the focus
              <div
                key={index}
                role="row"
                aria-rowindex={index + 2}
                aria-selected={row ? picked.has(row.id) : false}
                className={clsx(
                  "absolute flex w-full items-center border-b",
                  row && picked.has(row.id) && "bg-plum-soft",
                )}
                style={{ height: ROW, transform: `translateY(${start}px)` }}
              >
                <span role="gridcell" tabIndex={-1} className="flex w-10 flex-none justify-center">
                  {row && (
                    <Checkbox
                      tabIndex={-1}
                      aria-label={`Pick ${row.email}`}
                      checked={picked.has(row.id)}
                      onChange={(event) =>
                        void pick(
                          index,
                          event.target.checked,
                          (event.nativeEvent as MouseEvent).shiftKey,
                        )
                      }
                    />
                  )}
                </span>
                {headers.map((header, column) => {
                  const field = fields[column - 1];
                  const active = cell.row === index && cell.column === column;
                  const open = row && field && writing?.id === row.id && writing.column === column;
                  return (
                    <span
                      key={header.id}
                      role="gridcell"
                      tabIndex={active ? 0 : -1}
                      data-cell={`${index}:${column}`}
                      onFocus={() => !active && setActive({ row: index, column })}
                      onDoubleClick={() =>
                        row && field && setWriting({ id: row.id, row: index, column })
                      }
                      className="flex-none truncate px-2 focus-visible:-outline-offset-2"
                      style={{ width: header.getSize() }}
                    >
                      {!row ? (
                        <span className="block h-3 w-2/3 rounded bg-bench" />
                      ) : open ? (
                        <CellForm
                          label={`${field.label} of ${row.email}`}
                          field={field}
                          value={row.cells[field.id] ?? ""}
                          onSave={(text, seen) => save(row, field, text, seen)}
                          onEnd={(back) => {
                            setWriting((now) => (now === writing ? null : now));
                            if (back) focusCell(index, column);
                          }}
                        />
                      ) : (
                        <CellText row={row} id={header.id} />
                      )}
                    </span>
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
      <span className="sr-only">{counted(view.total, "row")}</span>
    </div>
  );
}

function CellText({ row, id }: { row: Row; id: string }) {
  if (id === "added") return <span className="text-ink-2">{row.added}</span>;
  if (id !== "email") return <>{row.cells[id] ?? <span className="text-ink-3">–</span>}</>;
  return (
    <span className="flex items-center gap-2">
      <Link
        to={`/people/contacts/${row.id}`}
        tabIndex={-1}
        className="truncate font-semibold hover:underline"
      >
        {row.email}
      </Link>
      {row.heldBack && <Chip tone="wrong">{row.heldBack}</Chip>}
    </span>
  );
}
