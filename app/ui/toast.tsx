/** The one way to say something in passing; what was done can be taken back from here. */
import { Toast } from "radix-ui";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useState } from "react";

type Tone = "plain" | "wrong";
interface Message {
  readonly id: number;
  readonly text: string;
  readonly tone: Tone;
  /** Takes back what is told. */
  readonly undo: (() => void) | null;
}
type Say = (text: string, tone?: Tone, undo?: () => void) => void;
const Context = createContext<Say>(() => {});

/** Gives the function that shows a message for a few seconds; with `undo` for ten. */
export const useToast = () => useContext(Context);

/** Says something each time a form's answer says that it was done. */
export function useTold(answer: unknown, done: boolean | undefined, text: string): void {
  const say = useToast();
  // biome-ignore lint/correctness/useExhaustiveDependencies: every answer is told once, even one like the last
  useEffect(() => {
    if (done) say(text);
  }, [answer]);
}

/** How long a message stands, ms; one that can be taken back stands longer. */
const STANDS_MS = 5_000;
const UNDO_MS = 10_000;

let last = 0;

export function ToastProvider({ children }: { children: ReactNode }) {
  const [messages, setMessages] = useState<readonly Message[]>([]);
  const say: Say = useCallback((text, tone = "plain", undo) => {
    setMessages((before) => [...before.slice(-2), { id: ++last, text, tone, undo: undo ?? null }]);
  }, []);
  return (
    <Context.Provider value={say}>
      <Toast.Provider duration={STANDS_MS}>
        {children}
        {messages.map(({ id, text, tone, undo }) => (
          <Toast.Root
            key={id}
            duration={undo ? UNDO_MS : STANDS_MS}
            onOpenChange={(open) =>
              open || setMessages((before) => before.filter((m) => m.id !== id))
            }
            className={`flex items-center gap-4 rounded-md border bg-sheet px-4 py-2.5 font-semibold ${tone === "wrong" ? "border-rust text-rust" : "border-line-strong text-ink"}`}
          >
            <Toast.Description>{text}</Toast.Description>
            {undo && (
              <Toast.Action altText="Undo, from the top of the page" asChild>
                <button type="button" onClick={undo} className="link font-semibold">
                  Undo
                </button>
              </Toast.Action>
            )}
          </Toast.Root>
        ))}
        <Toast.Viewport className="fixed bottom-4 left-1/2 z-[60] flex w-max max-w-[90vw] -translate-x-1/2 flex-col gap-2" />
      </Toast.Provider>
    </Context.Provider>
  );
}
