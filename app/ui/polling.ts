/** Asks for the page's data again and again while something goes on; always after the last answer has come. */
import { useEffect } from "react";
import { useRevalidator } from "react-router";

/** `every` is the rest between an answer and the next question, ms; null asks no more. Hidden pages do not ask. */
export function usePolling(every: number | null): void {
  const { state, revalidate } = useRevalidator();
  useEffect(() => {
    if (every === null || state !== "idle") return;
    let timer: ReturnType<typeof setTimeout>;
    const ask = () => {
      if (document.hidden) timer = setTimeout(ask, every);
      else void revalidate();
    };
    timer = setTimeout(ask, every);
    return () => clearTimeout(timer);
  }, [every, state, revalidate]);
}
