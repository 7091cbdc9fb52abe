/** The frame around every place: the top navigation. */
import { LogOut, Plus, Settings2 } from "lucide-react";
import { Link, NavLink, Outlet } from "react-router";
import { labelOfRemoved } from "#server/store/bin.ts";
import { REMOVED } from "../removed-param.ts";
import { at } from "../request.ts";
import { Buttonlike, IconButton } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import { RemovedMessage } from "../ui/removed.tsx";
import { Wordmark } from "../ui/wordmark.tsx";
import type { Route } from "./+types/studio.ts";

const PLACES = [
  ["/", "Desk"],
  ["/campaigns", "Campaigns"],
  ["/templates", "Templates"],
  ["/people", "People"],
  ["/library", "Library"],
  ["/results", "Results"],
  ["/outbox", "Outbox"],
] as const;

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, member } = at(context);
  const id = new URL(request.url).searchParams.get(REMOVED);
  const label = id && (await labelOfRemoved(sql, id));
  return { name: member.name, removed: id && label ? { id, label } : null };
}

export default function Studio({ loaderData }: Route.ComponentProps) {
  return (
    <>
      <header className="flex min-h-12 flex-wrap items-center gap-x-8 gap-y-1 border-b px-3.5 max-md:py-1.5">
        <Link to="/" aria-label="Septima, to the desk">
          <Wordmark />
        </Link>
        <nav
          aria-label="Places"
          className="flex gap-1 overflow-x-auto max-md:order-last max-md:w-full"
        >
          {PLACES.map(([to, label]) => (
            <NavLink
              key={to}
              to={to}
              end={to === "/"}
              className={({ isActive }) =>
                `rounded-md px-2.5 py-1.5 font-semibold ${isActive ? "bg-plum-soft text-plum" : "text-ink-2 hover:bg-bench"}`
              }
            >
              {label}
            </NavLink>
          ))}
        </nav>
        <div className="ml-auto flex items-center gap-2">
          <span className="mr-1 text-small text-ink-3 max-md:sr-only">{loaderData.name}</span>
          <Form method="post" action="/sign-out">
            <IconButton label="Sign out" type="submit">
              <LogOut />
            </IconButton>
          </Form>
          <Link
            to="/settings"
            aria-label="Settings"
            title="Settings"
            className="inline-flex size-7 items-center justify-center rounded-md text-ink-2 hover:bg-bench"
          >
            <Settings2 className="size-4" />
          </Link>
          <Buttonlike asChild primary>
            <Link to="/campaigns/new">
              <Plus className="size-4" /> New campaign
            </Link>
          </Buttonlike>
        </div>
      </header>
      <RemovedMessage removed={loaderData.removed} />
      <Outlet />
    </>
  );
}
