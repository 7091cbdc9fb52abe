/** Something heavy that is brought when it is first asked for, and once. */
export interface Late<T> {
  /** It, once it is there; null before. */
  now(): T | null;
  /** Brings it. What failed may be asked for again. */
  load(): Promise<T>;
  /** Settles when it is there, whoever has asked. */
  readonly arrived: Promise<T>;
}

/** Several as one. */
export const together = (all: readonly Late<unknown>[]): Late<true> => ({
  now: () => all.every((one) => one.now() !== null) || null,
  load: () => Promise.all(all.map((one) => one.load())).then(() => true as const),
  arrived: Promise.all(all.map((one) => one.arrived)).then(() => true as const),
});

export function late<T>(bring: () => Promise<T>): Late<T> {
  let here: T | null = null;
  let coming: Promise<T> | null = null;
  let arrive: (it: T) => void;
  const arrived = new Promise<T>((ok) => {
    arrive = ok;
  });
  return {
    arrived,
    now: () => here,
    load() {
      coming ??= bring().then(
        (it) => {
          here = it;
          arrive(it);
          return it;
        },
        (error: unknown) => {
          coming = null;
          throw error;
        },
      );
      return coming;
    },
  };
}
