/** Many callers, one statement: while one is under way the next gathers. */

/** Gives a function that hands its argument to `work` together with those of all who called meanwhile. */
export function gather<Item, Result>(
  work: (items: readonly Item[]) => Promise<Result>,
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
      last = result.catch(() => {});
      return result;
    });
    return next;
  };
}
