import { handedDown } from "../shared.ts";
import type { Heard } from "./listen.ts";

/** Who hears what hands do on a sheet. */
export const { Provider: HeardProvider, use: useHeard } = handedDown<Heard>("hearing");
