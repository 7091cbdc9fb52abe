/** The first hour on the desk: what is missing on the way to a first send, each step until it is done. */
import { Check } from "lucide-react";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { FirstSteps } from "#server/campaigns/first-steps.ts";
import { Button } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import { count } from "../ui/words.ts";

function Act({ act, children }: { act: "samples" | "noSamples" | "deliver"; children: ReactNode }) {
  return (
    <Form method="post" className="inline">
      <input type="hidden" name="do" value={act} />
      <Button type="submit">{children}</Button>
    </Form>
  );
}

interface Step {
  readonly done: boolean;
  readonly title: string;
  readonly about: string;
  readonly ways: ReactNode;
}

const way = (to: string, words: string) => (
  <Link to={to} className="link">
    {words}
  </Link>
);

const stepsOf = (steps: FirstSteps): readonly Step[] => [
  {
    done: steps.you,
    title: "Who you are",
    about: "Your name, the address you sign in with, and a password.",
    ways: way("/settings#section-account", "Write it in the settings"),
  },
  {
    done: steps.brand,
    title: "The brand",
    about: "Its name, the sender, and the postal address that every email must show.",
    ways: way("/settings#section-sender", "Write it in the settings"),
  },
  {
    done: steps.people,
    title: "People",
    about: "From a file, by hand, or twenty samples that can be taken out again.",
    ways: (
      <>
        {way("/people/imports", "Import a file")}
        {way("/people", "Add somebody")}
        <Act act="samples">Put in twenty samples</Act>
      </>
    ),
  },
  {
    done: steps.email,
    title: "The first email",
    about: "From a template, or from nothing.",
    ways: way("/campaigns/new", "Start a campaign"),
  },
  {
    done: steps.test,
    title: "A test to yourself",
    about: "From the Proof room of a campaign.",
    ways: steps.campaign
      ? way(`/campaigns/${steps.campaign}/proof`, "Go to the Proof room")
      : "Once there is a campaign.",
  },
  {
    done: steps.delivery,
    title: "Delivery",
    about: steps.elsewhere
      ? "Emails go to your mail service. One message shows whether it takes them."
      : "Emails go to the outbox, which delivers nowhere. A mail service is named by the setting SEPTIMA_SMTP.",
    ways: <Act act="deliver">Send yourself one message</Act>,
  },
];

export function FirstStepsList({
  steps,
  samples,
  said,
}: {
  steps: FirstSteps;
  /** How many samples there are. */
  samples: number;
  /** What came of the step that was taken last, where it went wrong. */
  said: string | null;
}) {
  const all = stepsOf(steps);
  const left = all.filter(({ done }) => !done).length;
  return (
    <section aria-label="First steps" className="mb-7">
      <h2 className="mb-1 text-head">{left === 0 ? "Ready to send" : "First steps"}</h2>
      {said && (
        <p role="alert" className="mb-2 font-semibold text-rust">
          {said}
        </p>
      )}
      <ol className="border-t">
        {all.map(({ done, title, about, ways }) => (
          <li
            key={title}
            className="flex flex-wrap items-start gap-3 border-b py-2.5"
            data-step={title}
          >
            <span
              className={`mt-0.5 flex size-5 flex-none items-center justify-center rounded-full border ${done ? "border-leaf text-leaf" : "border-line-strong"}`}
            >
              {done && <Check className="size-3.5" aria-hidden />}
              <span className="sr-only">{done ? "Done:" : "To do:"}</span>
            </span>
            <div className="min-w-0 flex-1">
              <div className={done ? "text-ink-3" : "font-semibold"}>{title}</div>
              {!done && <p className="text-small text-ink-2">{about}</p>}
            </div>
            {!done && (
              <div className="flex flex-none flex-wrap items-center gap-3 max-md:w-full max-md:pl-8">
                {ways}
              </div>
            )}
          </li>
        ))}
      </ol>
      {samples > 0 && (
        <div className="mt-2 flex items-center gap-3 text-small text-ink-2">
          {count(samples)} of your people are samples. <Act act="noSamples">Take them out</Act>
        </div>
      )}
    </section>
  );
}
