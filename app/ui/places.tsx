import { NavLink, useLocation } from "react-router";

/** The places within one of the application's, as the second row of navigation. */
export function Places({
  label,
  places,
}: {
  label: string;
  /** Address and name of each, and where its pages begin if that is elsewhere; the first is the place's own page. */
  places: readonly (readonly [string, string, string?])[];
}) {
  const { pathname } = useLocation();
  return (
    <nav
      aria-label={label}
      className="mx-auto flex max-w-[1280px] gap-5 border-b px-10 pt-3 max-md:overflow-x-auto max-md:overflow-y-hidden max-md:px-4"
    >
      {places.map(([to, name, within], i) => (
        <NavLink
          key={to}
          to={to}
          end={i === 0}
          className={({ isActive }) =>
            `-mb-px whitespace-nowrap border-b-2 pb-2 font-display text-lead ${isActive || (within && pathname.startsWith(within)) ? "border-plum text-plum" : "border-transparent text-ink-2 hover:text-ink"}`
          }
        >
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
