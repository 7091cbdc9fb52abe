/** Many callers, one statement: while one is under way the next gathers. */
import { setTimeout as sleep } from "node:timers/promises";

/** Gives a function that hands its argument to `work` together with those of all who called meanwhile; at most once in so many ms. */
export function gather<Item, Result>(
  work: (items: readonly Item[]) => Promise<Result>,
  pause = 0,
): (item: Item) => Promise<Result> {
  let items: Item[] = [];
  let next: Promise<Result> | null = null;
  let last: Promise<unknown> = Promise.resolve();
  return (item) => {
    items.push(item);
    next ??= last.then(() => {
      const taken = items;
      items = [];
      next = null;
      const result = work(taken);
      last = Promise.allSettled([result, pause > 0 && sleep(pause)]);
      return result;
    });
    return next;
  };
}
