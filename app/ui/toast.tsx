/** The one way to say something in passing. */
import { Toast } from "radix-ui";
import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";

type Tone = "plain" | "wrong";
interface Message {
  id: number;
  text: string;
  tone: Tone;
}
const Context = createContext<(text: string, tone?: Tone) => void>(() => {});

/** Gives the function that shows a message for a few seconds. */
export const useToast = () => useContext(Context);

let last = 0;

export function ToastProvider({ children }: { children: ReactNode }) {
  const [messages, setMessages] = useState<Message[]>([]);
  const say = useCallback((text: string, tone: Tone = "plain") => {
    setMessages((before) => [...before.slice(-2), { id: ++last, text, tone }]);
  }, []);
  const value = useMemo(() => say, [say]);
  return (
    <Context.Provider value={value}>
      <Toast.Provider duration={5000}>
        {children}
        {messages.map((message) => (
          <Toast.Root
            key={message.id}
            onOpenChange={(open) =>
              open || setMessages((before) => before.filter((m) => m.id !== message.id))
            }
            className={`rounded-md border bg-sheet px-4 py-2.5 font-semibold ${message.tone === "wrong" ? "border-rust text-rust" : "border-line-strong text-ink"}`}
          >
            <Toast.Description>{message.text}</Toast.Description>
          </Toast.Root>
        ))}
        <Toast.Viewport className="fixed bottom-4 left-1/2 z-[60] flex w-max max-w-[90vw] -translate-x-1/2 flex-col gap-2" />
      </Toast.Provider>
    </Context.Provider>
  );
}
