/** The cleaner of HTML where it is there from the beginning: everywhere but in the browser. */
import type { Late } from "../../late.ts";
import * as cleaning from "./clean-html.ts";

export const cleaner: Late<typeof cleaning> = {
  now: () => cleaning,
  load: async () => cleaning,
  arrived: Promise.resolve(cleaning),
};
