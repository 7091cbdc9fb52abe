/** Emails to start from, small. */
import clsx from "clsx";
import { Heart } from "lucide-react";
import { Link, useFetcher } from "react-router";
import { Look } from "../desk/look.tsx";
import { IconButton } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import { hrefOf, type Shown } from "./address.ts";

interface Offered {
  readonly from: string;
  readonly id: string;
  readonly name: string;
  readonly about: string;
  /** Whether somebody keeps it at hand; null where it cannot be kept. */
  readonly kept: boolean | null;
  readonly look: string;
}

export function Gallery({
  items,
  shown,
  chosen,
}: {
  items: readonly Offered[];
  shown: Shown;
  chosen: string | null;
}) {
  return (
    <ul className="grid grid-cols-4 gap-x-5 gap-y-6 max-xl:grid-cols-3 max-md:grid-cols-2">
      {shown.show === "blank" && (
        <li>
          <Card to={hrefOf(shown, { from: "blank" })} on={chosen === "blank"} name="A blank email">
            <div className="h-48 bg-sheet" />
          </Card>
          <p className="text-small text-ink-3">nothing but the footer</p>
        </li>
      )}
      {items.map((one) => (
        <li key={one.from}>
          <Card to={hrefOf(shown, { from: one.from })} on={chosen === one.from} name={one.name}>
            <Look src={one.look} scale={0.29} height={192} framed={false} />
          </Card>
          <div className="flex items-start gap-1">
            <p className="flex-1 text-small text-ink-3">{one.about}</p>
            {one.kept !== null && <Keep id={one.id} name={one.name} kept={one.kept} />}
          </div>
        </li>
      ))}
    </ul>
  );
}

function Card({
  to,
  on,
  name,
  children,
}: {
  to: string;
  on: boolean;
  name: string;
  children: React.ReactNode;
}) {
  return (
    <Link to={to} replace preventScrollReset aria-current={on || undefined} className="block">
      <div
        className={clsx(
          "overflow-hidden bg-[#ffffff]",
          on ? "outline-2 outline-plum outline-offset-1" : "outline-1 outline-line",
        )}
      >
        {children}
      </div>
      <span className="mt-1.5 block truncate font-display text-title">{name}</span>
    </Link>
  );
}

function Keep({ id, name, kept }: { id: string; name: string; kept: boolean }) {
  const fetcher = useFetcher();
  const now = fetcher.formData ? fetcher.formData.get("keep") === "yes" : kept;
  return (
    <Form method="post" action="/campaigns/new" fetcher={fetcher}>
      <input type="hidden" name="template" value={id} />
      <input type="hidden" name="keep" value={now ? "no" : "yes"} />
      <IconButton
        type="submit"
        label={now ? `Keep “${name}” no longer` : `Keep “${name}” at hand`}
        aria-pressed={now}
        className={now ? "text-plum" : ""}
      >
        <Heart fill={now ? "currentColor" : "none"} />
      </IconButton>
    </Form>
  );
}
