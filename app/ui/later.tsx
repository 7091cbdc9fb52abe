/** What takes its time to count: the page does not wait for it. */
import { type ReactNode, Suspense, useEffect, useState } from "react";
import { Await } from "react-router";

export function Later<T>({
  of,
  until = "…",
  children,
}: {
  of: Promise<T>;
  /** What stands there until it is known. */
  until?: ReactNode;
  children: (known: T) => ReactNode;
}) {
  return (
    <Suspense fallback={until}>
      <Await resolve={of} errorElement={<span title="This could not be counted.">–</span>}>
        {(known) => children(known as T)}
      </Await>
    </Suspense>
  );
}

/**
 * The same as a value: null while nothing is known, and `failed` where it could not be counted. What was known stays
 * while it is counted anew.
 */
export function useKnown<T>(of: Promise<T> | null): { known: T | null; failed: boolean } {
  const [state, setState] = useState<{ known: T | null; failed: boolean }>({
    known: null,
    failed: false,
  });
  useEffect(() => {
    let asked = true;
    of?.then(
      (known) => asked && setState({ known, failed: false }),
      () => asked && setState({ known: null, failed: true }),
    );
    return () => {
      asked = false;
    };
  }, [of]);
  return state;
}
