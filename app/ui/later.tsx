/** What takes its time to count: the page does not wait for it. */
import { type ReactNode, Suspense } from "react";
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
