/** What the server hands to routes. */
import { createContext } from "react-router";
import type { Services } from "../services.ts";
import type { Member } from "../store/team.ts";

export const servicesContext = createContext<Services>();
/** The address of the network that a request comes from. */
export const networkContext = createContext<string>();
export const nonceContext = createContext<string>();
/** The session of the person signed in. */
export const sessionContext = createContext<string>();
/** The person signed in; set by the guard before any guarded route runs. */
export const memberContext = createContext<Member>();
