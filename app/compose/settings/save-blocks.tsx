/** Saves what is selected, to be put into other emails. */
import { Bookmark } from "lucide-react";
import { type FormEvent, useState } from "react";
import { hasLinks } from "#core/blocks/linked.ts";
import type { DocNode } from "#core/document/index.ts";
import { ask, wordsOf } from "../../ask.ts";
import { Button } from "../../ui/button.tsx";
import { Checkbox } from "../../ui/checkbox.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { Field, INPUT } from "../../ui/field.tsx";
import { useToast } from "../../ui/toast.tsx";
import { useCommands } from "../doing/commands.ts";

export function SaveBlocks({
  nodes,
  proposed,
  className,
}: {
  nodes: readonly DocNode[];
  proposed: string;
  className?: string;
}) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [linked, setLinked] = useState(false);
  const { edit } = useCommands();
  const mayBeLinked = nodes.length === 1 && !hasLinks(nodes[0]!);
  const say = useToast();
  const send = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setProblem(null);
    const called = (name ?? proposed).trim();
    const reply = await ask<{ id: string }>("/library/saved.json", {
      json: { name: called, nodes },
    });
    setBusy(false);
    if (reply.kind !== "ok") return setProblem(wordsOf(reply, "It could not be saved. Try again."));
    setOpen(false);
    setName(null);
    const [node] = nodes;
    if (mayBeLinked && linked && node) {
      edit({ type: "set", node: node.id, path: ["linked"], value: { saved: reply.body.id } });
    }
    say(`“${called}” is saved: it is in the tray under Saved`);
  };
  return (
    <Dialog
      title="Save for other emails"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Button className={className}>
          <Bookmark className="size-3.5" /> Save…
        </Button>
      }
    >
      <form onSubmit={(event) => void send(event)} className="flex flex-col gap-3">
        <Field label="Name" errors={problem ? [problem] : null}>
          {(ids) => (
            <input
              {...ids}
              autoFocus
              value={name ?? proposed}
              maxLength={120}
              className={INPUT}
              onChange={(event) => setName(event.target.value)}
            />
          )}
        </Field>
        {mayBeLinked && (
          <Checkbox
            label="Keep this one linked to it"
            checked={linked}
            onChange={({ target }) => setLinked(target.checked)}
          />
        )}
        <p className="text-small text-ink-2">
          {mayBeLinked && linked
            ? "It is the same wherever it is linked: changed in one email, it changes in all that are not sent."
            : "It is a copy: what is changed here later does not change it."}
        </p>
        <div>
          <Button type="submit" primary disabled={busy}>
            Save
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
