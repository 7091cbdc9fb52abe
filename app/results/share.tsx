/** A text to share elsewhere, with the address of the web version for everybody. */
import { Copy } from "lucide-react";
import { Button } from "../ui/button.tsx";
import { useCopy } from "../ui/copy.ts";

export function Share({ subject, address }: { subject: string; address: string }) {
  const copy = useCopy();
  const text = `${subject}\n${address}`;
  return (
    <section aria-label="Share it">
      <h2 className="mb-2 text-head">Share it</h2>
      <p className="mb-2 text-small text-ink-2">
        The web version for everybody: nothing in it is a reader’s own, and nobody is counted.
      </p>
      <pre className="mb-2 rounded-md bg-bench px-2.5 py-2 font-sans text-small break-all whitespace-pre-wrap select-all">
        {text}
      </pre>
      <Button onClick={() => void copy(text, "The text is copied")}>
        <Copy className="size-4" /> Copy the text
      </Button>
    </section>
  );
}
