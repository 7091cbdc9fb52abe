/** How the items of an email are taken when it leaves, and what must not have become of them. */

import { useState } from "react";
import { CHANGE_KINDS, CHANGES, ITEMS_PLAN } from "#core/items/index.ts";
import { Checkbox } from "../ui/checkbox.tsx";
import { Segmented } from "../ui/segmented.tsx";

export function ItemsFields() {
  const [take, setTake] = useState(ITEMS_PLAN.take);
  return (
    <section aria-label="Items of sources" className="flex flex-col gap-2 border-t pt-4">
      <h2 className="text-title">What comes from feeds, the shop and calendars</h2>
      <Segmented
        label="Items"
        value={take}
        onChange={setTake}
        options={[
          { value: "kept", label: "As looked at now" },
          { value: "fresh", label: "As it is when it is sent" },
        ]}
      />
      <input type="hidden" name="take" value={take} />
      <input type="hidden" name="asksStops" value="1" />
      <p className="text-small text-ink-2">
        It is looked at again before it is sent. It stops, and waits for you, where
      </p>
      {CHANGE_KINDS.map((kind) => (
        <Checkbox
          key={kind}
          name="stopAt"
          value={kind}
          defaultChecked={ITEMS_PLAN.stopAt.includes(kind)}
          label={CHANGES[kind]}
        />
      ))}
    </section>
  );
}
