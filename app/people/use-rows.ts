/** Rows of a view, fetched as they come into sight and kept. */
import { useCallback, useEffect, useRef, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import { answerTo } from "../ask.ts";

export interface Row {
  readonly id: number;
  readonly email: string;
  readonly heldBack: string | null;
  readonly added: string;
  readonly cells: Readonly<Record<string, string>>;
}

const PAGE = LIMITS.contactRows;

export function useRows({ token, query, total }: { token: string; query: string; total: number }) {
  const pages = useRef(new Map<number, readonly Row[] | "asked">());
  const [, redraw] = useState(0);

  const fetchPage = useCallback(
    async (page: number) => {
      const kept = pages.current;
      if (kept.has(page)) return;
      kept.set(page, "asked");
      const path = `/people/rows?${query}&token=${token}&from=${page * PAGE}`;
      const answer = await answerTo<{ rows: Row[] }>(path);
      if (answer) kept.set(page, answer.rows);
      else kept.delete(page);
      if (kept === pages.current) redraw((n) => n + 1);
    },
    [query, token],
  );
  const show = useCallback(
    (from: number, to: number) => {
      for (let page = Math.floor(from / PAGE); page <= Math.floor(to / PAGE); page++) {
        if (page * PAGE < total) void fetchPage(page);
      }
    },
    [fetchPage, total],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: another view begins with nothing
  useEffect(() => {
    pages.current = new Map();
    show(0, Math.min(total, PAGE) - 1);
  }, [token, show, total]);

  const rowAt = (index: number): Row | null => {
    const page = pages.current.get(Math.floor(index / PAGE));
    return Array.isArray(page) ? (page[index % PAGE] ?? null) : null;
  };
  const setCell = (id: number, cells: Readonly<Record<string, string>>) => {
    for (const [page, rows] of pages.current) {
      if (!Array.isArray(rows)) continue;
      if (rows.some((row: Row) => row.id === id)) {
        pages.current.set(
          page,
          rows.map((row: Row) => (row.id === id ? { ...row, cells } : row)),
        );
      }
    }
    redraw((n) => n + 1);
  };
  /** Who stands in these rows, fetched where they have not been in sight; null where that is too many. */
  const idsBetween = async (from: number, to: number): Promise<number[] | null> => {
    if (to - from >= LIMITS.pickedAtOnce) return null;
    const first = Math.floor(from / PAGE);
    const wanted = Array.from({ length: Math.floor(to / PAGE) - first + 1 }, (_, i) => first + i);
    await Promise.all(wanted.map(fetchPage));
    const ids: number[] = [];
    for (let row = from; row <= to; row++) {
      const id = rowAt(row)?.id;
      if (id !== undefined) ids.push(id);
    }
    return ids;
  };
  return { rowAt, idsBetween, show, setCell };
}
