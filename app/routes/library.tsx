/** The frame around all places of the library. */
import { Outlet } from "react-router";
import { Places } from "../ui/places.tsx";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Library · Septima" }];

const PLACES = [
  ["/library", "Images", "/library/image/"],
  ["/library/themes", "Themes"],
  ["/library/saved", "Saved blocks"],
  ["/library/files", "Files"],
  ["/library/feeds", "Feeds"],
  ["/library/catalogues", "Catalogues"],
  ["/library/calendars", "Calendars"],
  ["/library/derived", "Derived tags"],
  ["/library/rolls", "Code rolls"],
] as const;

export default function Library() {
  return (
    <>
      <Places label="Library" places={PLACES} />
      <Outlet />
    </>
  );
}
