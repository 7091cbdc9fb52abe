import { data } from "react-router";

/** Any address that is not in the list. */
export const loader = () => {
  throw data(null, { status: 404 });
};

export default function Missing() {
  return null;
}
