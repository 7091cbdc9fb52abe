/** What is said in passing: to everybody, or to screen readers alone. */
import { handedDown } from "../shared.ts";

export interface Messages {
  say(words: string, tone?: "plain" | "wrong"): void;
  announce(words: string): void;
  /** The element that screen readers listen to. */
  readonly announcer: (element: HTMLElement | null) => void;
}

export function createMessages(say: Messages["say"]): Messages {
  let element: HTMLElement | null = null;
  return {
    say,
    announce(words) {
      if (element) element.textContent = words;
    },
    announcer(found) {
      element = found;
    },
  };
}

export const { Provider: MessagesProvider, use: useMessages } = handedDown<Messages>("messages");
