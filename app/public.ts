/** Addresses that open without a session: for readers of emails, and for signing in. */
const PUBLIC = [
  /^\/sign-in(\/|$)/,
  /^\/o\/[^/]+$/,
  /^\/c\/[^/]+\/[^/]+$/,
  /^\/[uwsp]\/[^/]+$/,
  /^\/q\/[^/]+\/[^/]+$/,
  /^\/(join|confirm)\/[^/]+$/,
  /^\/review\/[^/]+(\/(email|sheet))?$/,
  /^\/e\/[^/]+\/[^/]+$/,
  /^\/shop\/[^/]+$/,
  // Made pictures with a seal; without one only the team sees them.
  /^\/made\/[^/]+\/[A-Za-z0-9_-]{20}\.(png|jpg)$/,
];

/** Whether a path is public. Data requests carry the page's path with `.data` behind it. */
export const isPublic = (pathname: string): boolean =>
  PUBLIC.some((pattern) => pattern.test(pathname.replace(/\.data$/, "")));
