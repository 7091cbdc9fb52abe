/** Settings from the environment. A bad one stops the start with one line that names it. */
import { resolve } from "node:path";
import { z } from "zod";

const port = z.coerce
  .number("must be a number")
  .int()
  .min(0)
  .max(65_535, "must be a port (0–65535)");

/** A proxy in front: by its address or network, or `loopback`. */
const proxySchema = z.union([z.enum(["", "loopback"]), z.ipv4(), z.ipv6(), z.cidrv4(), z.cidrv6()]);

const environmentSchema = z.object({
  SEPTIMA_DATA: z.string().min(1).default("./data"),
  SEPTIMA_HOST: z.string().min(1).default("127.0.0.1"),
  SEPTIMA_PORT: port.default(4600),
  SEPTIMA_PUBLIC_ADDRESS: z
    .url({ protocol: /^https?$/, error: "must be an http or https address" })
    .transform((address) => address.replace(/\/+$/, ""))
    .optional(),
  SEPTIMA_SMTP: z
    .url({ protocol: /^smtps?$/, error: "must be an smtp:// or smtps:// address" })
    .optional(),
  SEPTIMA_OUTBOX_PORT: port.default(0),
  SEPTIMA_RETURNS_PORT: port.optional(),
  SEPTIMA_RETURNS_DOMAIN: z
    .string()
    .regex(/^[a-z0-9-]+(\.[a-z0-9-]+)+$/i, "must be a domain whose mail comes to the returns port")
    .transform((domain) => domain.toLowerCase())
    .optional(),
  SEPTIMA_TRUSTED_PROXIES: z
    .string()
    .refine(
      (text) => text.split(",").every((one) => proxySchema.safeParse(one.trim()).success),
      "must be loopback, or addresses with commas between",
    )
    .default(""),
  SEPTIMA_PAUSES: z.enum(["0", "1"], "must be 0 or 1").default("1"),
  SEPTIMA_GALLERY: z.enum(["0", "1"], "must be 0 or 1").default("0"),
  SEPTIMA_KEY: z.string().min(32, "must have at least 32 characters").optional(),
});

export interface Config {
  readonly dataFolder: string;
  readonly host: string;
  readonly port: number;
  /** Where readers and browsers reach the application; without a slash at its end. */
  readonly publicAddress: string;
  /** Null: messages go to the outbox that ships with the application. */
  readonly smtp: string | null;
  readonly outboxPort: number;
  /** Where bounces, complaints and people who leave by mail come in; null where none do. */
  readonly returns: { readonly port: number; readonly domain: string } | null;
  /** Proxies whose word on where a request comes from is taken (X-Forwarded-For); false for none. */
  readonly trustedProxies: readonly string[] | false;
  /** Long work rests between its pieces, so that others come to the database; without that it is a little quicker. */
  readonly pauses: boolean;
  /** Shows the gallery of blocks, for those who build them. */
  readonly gallery: boolean;
  /** Null: one is made and kept in the data folder. */
  readonly key: string | null;
}

export class ConfigError extends Error {}

/** Reads the settings. Throws a ConfigError naming the first that is wrong. */
export function readConfig(environment: Record<string, string | undefined>): Config {
  const given = Object.fromEntries(Object.entries(environment).filter(([, value]) => value !== ""));
  const result = environmentSchema.safeParse(given);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    throw new ConfigError(`The setting ${issue.path.join(".")} ${issue.message}.`);
  }
  const settings = result.data;
  if ((settings.SEPTIMA_RETURNS_PORT === undefined) !== !settings.SEPTIMA_RETURNS_DOMAIN) {
    throw new ConfigError(
      "The settings SEPTIMA_RETURNS_PORT and SEPTIMA_RETURNS_DOMAIN go together.",
    );
  }
  return {
    dataFolder: resolve(settings.SEPTIMA_DATA),
    host: settings.SEPTIMA_HOST,
    port: settings.SEPTIMA_PORT,
    publicAddress:
      settings.SEPTIMA_PUBLIC_ADDRESS ??
      `http://${settings.SEPTIMA_HOST.includes(":") ? `[${settings.SEPTIMA_HOST}]` : settings.SEPTIMA_HOST}:${settings.SEPTIMA_PORT}`,
    smtp: settings.SEPTIMA_SMTP ?? null,
    outboxPort: settings.SEPTIMA_OUTBOX_PORT,
    returns:
      settings.SEPTIMA_RETURNS_PORT !== undefined && settings.SEPTIMA_RETURNS_DOMAIN
        ? { port: settings.SEPTIMA_RETURNS_PORT, domain: settings.SEPTIMA_RETURNS_DOMAIN }
        : null,
    trustedProxies: settings.SEPTIMA_TRUSTED_PROXIES
      ? settings.SEPTIMA_TRUSTED_PROXIES.split(",").map((one) => one.trim())
      : false,
    pauses: settings.SEPTIMA_PAUSES === "1",
    gallery: settings.SEPTIMA_GALLERY === "1",
    key: settings.SEPTIMA_KEY ?? null,
  };
}
