/** Buttons that do something with a launch; what cannot be taken back is asked once more. */
import { useState } from "react";
import { useNavigation } from "react-router";
import { Button } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import type { Action } from "./actions.ts";

export interface Option {
  readonly what: Action;
  readonly label: string;
  readonly primary?: boolean;
  /** What it means, asked before it is done. */
  readonly sure?: string;
}

export function Doing({ options }: { options: readonly Option[] }) {
  const [asked, setAsked] = useState<Option | null>(null);
  const busy = useNavigation().state !== "idle";
  const send = (option: Option) => (
    <Button
      key={option.what}
      type="submit"
      name="what"
      value={option.what}
      primary={option.primary ?? false}
      disabled={busy}
    >
      {option === asked ? `Yes: ${option.label.toLowerCase()}` : option.label}
    </Button>
  );
  return (
    <Form
      method="post"
      onSubmit={() => setAsked(null)}
      className="flex flex-wrap items-center gap-2.5"
    >
      {asked ? (
        // Its own key: the first button must not turn into this one under the same click.
        <div key="sure" className="flex flex-wrap items-center gap-2.5">
          <p className="w-full">{asked.sure}</p>
          {send(asked)}
          <Button onClick={() => setAsked(null)}>Not now</Button>
        </div>
      ) : (
        <div key="ask" className="flex flex-wrap gap-2.5">
          {options.map((option) =>
            option.sure ? (
              <Button
                key={option.what}
                primary={option.primary ?? false}
                disabled={busy}
                onClick={() => setAsked(option)}
              >
                {option.label}
              </Button>
            ) : (
              send(option)
            ),
          )}
        </div>
      )}
    </Form>
  );
}
