/** The frame around all places of people. */
import { Outlet } from "react-router";
import { Places } from "../ui/places.tsx";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "People · Septima" }];

const PLACES = [
  ["/people", "Everybody"],
  ["/people/segments", "Segments"],
  ["/people/lists", "Lists"],
  ["/people/fields", "Fields and records"],
  ["/people/imports", "Imports"],
  ["/people/preferences", "Topics and sign-up"],
  ["/people/held", "Suppressed"],
  ["/people/duplicates", "Duplicates"],
] as const;

export default function People() {
  return (
    <>
      <Places label="People" places={PLACES} />
      <Outlet />
    </>
  );
}
