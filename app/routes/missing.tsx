import { data } from "react-router";

/** Any address that is not in the list. */
export const loader = () => {
  throw data("There is nothing here.", { status: 404 });
};

export default function Missing() {
  return null;
}
