/** Turns: of a flood of requests only some are worked on at once, so that others get through beside it. */
import type { RequestHandler, Response } from "express";

/**
 * At most `most` requests are worked on; the others wait, the first that came first. Who hangs up waits no longer, and
 * nobody keeps a turn for longer than `span`, ms: on a slow line an answer takes as long as it likes.
 */
export function inTurn(most: number, span: number): RequestHandler {
  let under = 0;
  const waiting = new Set<() => void>();
  const begin = (response: Response) => {
    under++;
    const over = () => {
      clearTimeout(timer);
      response.off("close", over);
      under--;
      const [go] = waiting;
      go?.();
    };
    const timer = setTimeout(over, span).unref();
    response.once("close", over);
  };
  return (_request, response, goOn) => {
    const go = () => {
      waiting.delete(go);
      response.off("close", hungUp);
      begin(response);
      goOn();
    };
    const hungUp = () => waiting.delete(go);
    if (under < most) return go();
    waiting.add(go);
    response.once("close", hungUp);
  };
}
