/** The cleaner of HTML in the browser, where it weighs more than all the other blocks: it is brought for the first HTML block. */
import { late } from "../../late.ts";

export const cleaner = late(() => import("./clean-html.ts"));
