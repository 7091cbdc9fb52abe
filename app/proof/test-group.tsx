/** Addresses that are kept under a name, to take or to keep. */
import { Trash2 } from "lucide-react";
import { useState } from "react";
import { useRevalidator } from "react-router";
import type { TestGroup } from "#server/store/tests.ts";
import { ask, wordsOf } from "../ask.ts";
import { Button, IconButton } from "../ui/button.tsx";
import { INPUT } from "../ui/field.tsx";
import { Popover } from "../ui/popover.tsx";
import { Select } from "../ui/select.tsx";
import { useToast } from "../ui/toast.tsx";

export function TestGroups({
  groups,
  addresses,
  onTake,
}: {
  groups: readonly TestGroup[];
  /** What is written in the field now. */
  addresses: () => string;
  onTake: (addresses: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [taken, setTaken] = useState("");
  const { revalidate } = useRevalidator();
  const say = useToast();
  const change = async (json: object, done: string) => {
    const reply = await ask("/settings/test-groups", { json });
    if (reply.kind !== "ok") return say(wordsOf(reply, "This could not be kept."));
    say(done);
    setOpen(false);
    await revalidate();
  };
  const known = groups.some((one) => one.name === taken) ? taken : "";
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      {groups.length > 0 && (
        <Select
          label="Group"
          hint="A group…"
          className="w-40"
          options={groups.map((one) => ({ value: one.name, label: one.name }))}
          value={known}
          onValue={(value) => {
            setTaken(value);
            onTake(groups.find((one) => one.name === value)?.addresses.join(", ") ?? "");
          }}
        />
      )}
      {known && (
        <IconButton
          label={`Delete the group ${known}`}
          onClick={() => void change({ do: "remove", name: known }, `“${known}” is deleted`)}
        >
          <Trash2 />
        </IconButton>
      )}
      <Popover
        label="Keep these addresses as a group"
        open={open}
        onOpenChange={setOpen}
        trigger={
          <button type="button" className="link text-small">
            Keep as a group…
          </button>
        }
      >
        <div className="flex gap-2 p-2">
          <input
            aria-label="Name of the group"
            className={INPUT}
            value={name}
            onChange={(event) => setName(event.currentTarget.value)}
          />
          <Button
            primary
            onClick={() =>
              void change({ do: "keep", name, addresses: addresses() }, `“${name.trim()}” is kept`)
            }
          >
            Keep the group
          </Button>
        </div>
      </Popover>
    </div>
  );
}
