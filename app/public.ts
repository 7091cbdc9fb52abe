/** Addresses that open without a session: for readers of emails, and for signing in. */
const PUBLIC = [/^\/sign-in(\/|$)/, /^\/o\/[^/]+$/, /^\/c\/[^/]+\/[^/]+$/, /^\/[uw]\/[^/]+$/];

/** Whether a path is public. Data requests carry the page's path with `.data` behind it. */
export const isPublic = (pathname: string): boolean =>
  PUBLIC.some((pattern) => pattern.test(pathname.replace(/\.data$/, "")));
