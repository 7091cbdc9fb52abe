/** Asks before something is done that cannot be taken back. */
import { type ReactNode, useState } from "react";
import { Button } from "./button.tsx";
import { Dialog } from "./dialog.tsx";

export function Confirm({
  title,
  about,
  act,
  onAct,
  trigger,
}: {
  /** The question. */
  title: string;
  /** What it means. */
  about: ReactNode;
  /** What the button says that does it. */
  act: string;
  onAct: () => void;
  trigger: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog title={title} trigger={trigger} open={open} onOpenChange={setOpen}>
      <p className="mb-4 text-ink-2">{about}</p>
      <div className="flex gap-2">
        <Button
          primary
          onClick={() => {
            setOpen(false);
            onAct();
          }}
        >
          {act}
        </Button>
        <Button onClick={() => setOpen(false)}>Cancel</Button>
      </div>
    </Dialog>
  );
}
