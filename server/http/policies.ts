/** Content-Security-Policies (CSP Level 3), one for each kind of thing that is served. */

const spell = (directives: Record<string, string>) =>
  Object.entries(directives)
    .map(([name, value]) => `${name} ${value}`)
    .join("; ");

/** Pages of the application: only its own scripts run. Styles are inline because menus, charts and sheets place things with style attributes. */
export const pagePolicy = (nonce: string): string =>
  spell({
    "default-src": "'self'",
    "script-src": `'self' 'nonce-${nonce}'`,
    "style-src": "'self' 'unsafe-inline'",
    "img-src": "'self' data: blob:",
    "font-src": "'self'",
    "connect-src": "'self'",
    "frame-src": "'self'",
    "object-src": "'none'",
    "base-uri": "'none'",
    "form-action": "'self'",
    "frame-ancestors": "'none'",
  });

const EMAIL = {
  "default-src": "'none'",
  "img-src": "'self' http: https: data:",
  "style-src": "'unsafe-inline'",
  "font-src": "'self' https:",
  "base-uri": "'none'",
  "form-action": "'none'",
};

/** The empty page in a sheet's frame, into which the application writes an email. */
export const sheetPolicy = spell({ ...EMAIL, "frame-ancestors": "'self'" });

/** A message of the outbox in its frame: links open in a tab of their own. */
export const messagePolicy = spell({
  ...EMAIL,
  "base-uri": "'self'",
  sandbox: "allow-popups allow-popups-to-escape-sandbox",
  "frame-ancestors": "'self'",
});

/** The web version of an email. */
export const webVersionPolicy = spell({ ...EMAIL, "frame-ancestors": "'none'" });

/** What goes along with a web version in a language (BCP 47): what was written to one reader is in no index. */
export const webVersionHeaders = (lang: string) => ({
  "Content-Type": "text/html; charset=utf-8",
  "Content-Language": lang,
  "Content-Security-Policy": webVersionPolicy,
  "X-Robots-Tag": "noindex",
});
