/** What can be done with the people of a view, or with those of them who are picked. */
import { useState } from "react";
import { useSubmit } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { Button } from "../ui/button.tsx";
import { Dialog } from "../ui/dialog.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { finderOf } from "../ui/finder.ts";
import { Select } from "../ui/select.tsx";
import { count, people } from "../ui/words.ts";
import type { TableView } from "./contact-table.tsx";

const LISTS = finderOf("lists");
const NEW_LIST = [{ value: "new", label: "A new list…" }];

export function PickedBar({
  view,
  picked,
  params,
  onNobody,
}: {
  view: TableView & { readonly list: string };
  picked: ReadonlySet<number>;
  /** The view as the server is told of it. */
  params: Readonly<Record<string, string>>;
  onNobody: () => void;
}) {
  const submit = useSubmit();
  const [naming, setNaming] = useState(false);
  const [target, setTarget] = useState("");
  const send = (form: Record<string, string>) =>
    submit({ ids: [...picked].join(","), ...form }, { method: "post" });
  const all = view.total > 0 && view.total < LIMITS.listAtOnce;
  return (
    <div className="mb-2 flex h-9 items-center gap-2 text-small" aria-live="polite">
      {picked.size === 0 ? (
        <span className="text-ink-3">
          Select people to add them to a list. Double-click a cell to edit it.
          {all && (
            <>
              <Select
                label="Add everybody in this view to a list"
                value={target}
                none={`Add all ${count(view.total)} to a list…`}
                options={[]}
                finder={LISTS}
                onValue={setTarget}
                className="ml-3 w-56"
              />
              <Button
                className="ml-2"
                disabled={!target}
                onClick={() => {
                  const asked = { do: "viewList", count: view.total, target };
                  void submit({ ...params, ...asked }, { method: "post" });
                  setTarget("");
                }}
              >
                Add all {count(view.total)}
              </Button>
            </>
          )}
        </span>
      ) : (
        <>
          <strong>{people(picked.size)} selected</strong>
          <Select
            label="Add to a list"
            value=""
            hint="Add to a list…"
            options={NEW_LIST}
            finder={LISTS}
            onValue={(list) => {
              if (list === "new") setNaming(true);
              else if (list) void send({ do: "list", list });
            }}
            className="w-44"
          />
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
                  Create the list
                </Button>
              </div>
            </form>
          </Dialog>
          {view.list && (
            <Button onClick={() => send({ do: "off", list: view.list })}>
              Remove from this list
            </Button>
          )}
          <Button onClick={onNobody}>Clear selection</Button>
        </>
      )}
    </div>
  );
}
