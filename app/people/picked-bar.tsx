/** What can be done with the people of a view, or with those of them who are picked. */
import { useState } from "react";
import { useSubmit } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { Button } from "../ui/button.tsx";
import { Dialog } from "../ui/dialog.tsx";
import { Field, INPUT, NamedOptions } from "../ui/field.tsx";
import { count, people } from "../ui/words.ts";
import type { TableView } from "./contact-table.tsx";

export function PickedBar({
  view,
  picked,
  lists,
  params,
  onNobody,
}: {
  view: TableView & { readonly list: string };
  picked: ReadonlySet<number>;
  lists: readonly { id: string; name: string }[];
  /** The view as the server is told of it. */
  params: Readonly<Record<string, string>>;
  onNobody: () => void;
}) {
  const submit = useSubmit();
  const [naming, setNaming] = useState(false);
  const [target, setTarget] = useState("");
  const send = (form: Record<string, string>) =>
    submit({ ids: [...picked].join(","), ...form }, { method: "post" });
  const all = view.total > 0 && view.total < LIMITS.listAtOnce && lists.length > 0;
  return (
    <div className="mb-2 flex h-9 items-center gap-2 text-[12.5px]" aria-live="polite">
      {picked.size === 0 ? (
        <span className="text-ink-3">
          Pick people to put them on a list. Double-click a cell to write in it.
          {all && (
            <>
              <select
                aria-label="Put everybody in this view on a list"
                value={target}
                onChange={(event) => setTarget(event.target.value)}
                className={`${INPUT} ml-3 w-56!`}
              >
                <option value="">All {count(view.total)}, on a list…</option>
                <NamedOptions of={lists} />
              </select>
              <Button
                className="ml-2"
                disabled={!target}
                onClick={() => {
                  const asked = { do: "viewList", count: view.total, target };
                  void submit({ ...params, ...asked }, { method: "post" });
                  setTarget("");
                }}
              >
                Put all {count(view.total)} on it
              </Button>
            </>
          )}
        </span>
      ) : (
        <>
          <strong>{people(picked.size)} picked</strong>
          <select
            aria-label="Put on a list"
            value=""
            onChange={(event) => {
              const list = event.target.value;
              if (list === "new") setNaming(true);
              else send({ do: "list", list });
            }}
            className={`${INPUT} w-44!`}
          >
            <option value="" disabled>
              Put on a list…
            </option>
            <NamedOptions of={lists} />
            <option value="new">A new list…</option>
          </select>
          <Dialog title="A new list" open={naming} onOpenChange={setNaming}>
            <form
              className="flex flex-col gap-3"
              onSubmit={(event) => {
                event.preventDefault();
                const name = String(new FormData(event.currentTarget).get("name")).trim();
                if (!name) return;
                setNaming(false);
                send({ do: "newList", name });
              }}
            >
              <Field label="Name of the list" hint={`${people(picked.size)} will be on it.`}>
                {(ids) => (
                  <input
                    {...ids}
                    name="name"
                    required
                    maxLength={LIMITS.nameLength}
                    className={INPUT}
                  />
                )}
              </Field>
              <div>
                <Button type="submit" primary>
                  Make the list
                </Button>
              </div>
            </form>
          </Dialog>
          {view.list && (
            <Button onClick={() => send({ do: "off", list: view.list })}>Take off this list</Button>
          )}
          <Button onClick={onNobody}>Clear selection</Button>
        </>
      )}
    </div>
  );
}
