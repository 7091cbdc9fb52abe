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
  const pages = useRef(new Map<number, readonly Row[]>());
  const asked = useRef(new Map<number, Promise<void>>());
  const [, redraw] = useState(0);

  /** Each page is asked for once, and again where there was no answer. */
  const fetchPage = useCallback(
    (page: number): Promise<void> => {
      const [kept, underway] = [pages.current, asked.current];
      const ask = async () => {
        const path = `/people/rows?${query}&token=${token}&from=${page * PAGE}`;
        const answer = await answerTo<{ rows: Row[] }>(path);
        if (answer) kept.set(page, answer.rows);
        else underway.delete(page);
        if (kept === pages.current) redraw((n) => n + 1);
      };
      const asking = underway.get(page) ?? ask();
      underway.set(page, asking);
      return asking;
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
    asked.current = new Map();
    show(0, Math.min(total, PAGE) - 1);
  }, [token, show, total]);

  const rowAt = (index: number): Row | null =>
    pages.current.get(Math.floor(index / PAGE))?.[index % PAGE] ?? null;
  const setCell = (id: number, cells: Readonly<Record<string, string>>) => {
    for (const [page, rows] of pages.current) {
      if (!rows.some((row) => row.id === id)) continue;
      pages.current.set(
        page,
        rows.map((row) => (row.id === id ? { ...row, cells } : row)),
      );
    }
    redraw((n) => n + 1);
  };
  /** Who stands in these rows, fetched where they have not been in sight; null where some could not be. */
  const idsBetween = async (from: number, to: number): Promise<number[] | null> => {
    const first = Math.floor(from / PAGE);
    const wanted = Array.from({ length: Math.floor(to / PAGE) - first + 1 }, (_, i) => first + i);
    await Promise.all(wanted.map(fetchPage));
    if (!wanted.every((page) => pages.current.has(page))) return null;
    const ids: number[] = [];
    for (let row = from; row <= to; row++) {
      const id = rowAt(row)?.id;
      if (id !== undefined) ids.push(id);
    }
    return ids;
  };
  return { rowAt, idsBetween, show, setCell };
}
