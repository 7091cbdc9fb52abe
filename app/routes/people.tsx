/** The frame around all places of people. */
import { NavLink, Outlet } from "react-router";

export const meta = () => [{ title: "People · Septima" }];

const PLACES = [
  ["/people", "Everybody"],
  ["/people/segments", "Segments"],
  ["/people/lists", "Lists"],
  ["/people/fields", "Fields and records"],
  ["/people/imports", "Imports"],
  ["/people/preferences", "Topics and sign-up"],
  ["/people/held", "Held back"],
  ["/people/duplicates", "Duplicates"],
] as const;

export default function People() {
  return (
    <>
      <nav aria-label="People" className="mx-auto flex max-w-[1280px] gap-5 border-b px-10 pt-3">
        {PLACES.map(([to, label]) => (
          <NavLink
            key={to}
            to={to}
            end={to === "/people"}
            className={({ isActive }) =>
              `-mb-px border-b-2 pb-2 font-display text-[16px] ${isActive ? "border-plum text-plum" : "border-transparent text-ink-2 hover:text-ink"}`
            }
          >
            {label}
          </NavLink>
        ))}
      </nav>
      <Outlet />
    </>
  );
}
