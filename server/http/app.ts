/** The web server: static files, then pages. */
import { join } from "node:path";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express, { type Express, type RequestHandler } from "express";
import { rateLimit } from "express-rate-limit";
import { RouterContextProvider, type ServerBuild } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { readName } from "#core/picture-id.ts";
import { FILE_TYPES, fileEnding } from "#core/text/index.ts";
import { fileNameOf } from "../export/name.ts";
import { projectRoot } from "../root.ts";
import type { Services } from "../services.ts";
import { fileNamed } from "../store/files.ts";
import { withHeldBody } from "./bodies.ts";
import { begun, begunContext, networkContext, nonceContext, servicesContext } from "./context.ts";
import { lastAnswer, withReferences } from "./failures.ts";
import { readableAddress, refuseForged, securityHeaders } from "./security.ts";
import { inTurn } from "./turns.ts";

const YEAR = "365d";

export interface AppOptions {
  /** The built pages; a function is asked at every request, and the routes are derived from them anew. */
  readonly build: ServerBuild | (() => Promise<ServerBuild>);
  /** The folder with the built client, or null where a development server gives it. */
  readonly client: string | null;
}

export function createApp(services: Services, options: AppOptions): Express {
  const { config, log } = services;
  const app = express();
  app.disable("x-powered-by");
  app.set("trust proxy", config.trustedProxies);
  app.use(
    compression({
      filter: (request, response) =>
        !String(response.getHeader("content-type")).startsWith("text/event-stream") &&
        compression.filter(request, response),
    }),
  );
  if (options.client) {
    const assets = join(options.client, "assets");
    app.use("/assets", express.static(assets, { immutable: true, maxAge: YEAR, index: false }));
    app.use(express.static(options.client, { maxAge: "1h", index: false }));
  }
  app.use(securityHeaders(config.publicAddress));
  app.use(readableAddress);
  app.use(refuseForged(config.publicAddress));

  app.get("/pictures/:file", async (request, response) => {
    const { name, width } = readName(request.params.file);
    const { pictures, log } = services;
    const whole = pictures.fileOf(name);
    if (!whole) return void response.sendStatus(404);
    // Where it cannot be made smaller it is shown as it is: an email is never without it.
    const sized =
      width === null
        ? null
        : await pictures.sized(name, width).catch((error) => {
            log.warn({ error, name, width }, "an image could not be made smaller");
            return null;
          });
    // Pictures stand in emails, which are read elsewhere.
    response.set("Cross-Origin-Resource-Policy", "cross-origin");
    response.sendFile(
      sized ?? join(pictures.folder, whole),
      { immutable: true, maxAge: YEAR, dotfiles: "allow" },
      (error) => {
        if (error && !response.headersSent) response.sendStatus(404);
      },
    );
  });

  app.get("/fonts/:file", (request, response) => {
    const path = services.fonts.pathOf(request.params.file);
    if (!path) return void response.sendStatus(404);
    // Mail programs on the web load fonts from elsewhere only where that is allowed (CSS Fonts 4, 4.9; Fetch, CORS).
    response.set("Access-Control-Allow-Origin", "*");
    response.set("Cross-Origin-Resource-Policy", "cross-origin");
    response.sendFile(path, { immutable: true, maxAge: YEAR, dotfiles: "allow" }, (error) => {
      if (error && !response.headersSent) response.sendStatus(404);
    });
  });

  const prioritised = withPriority(services);
  app.get("/files/:short{/:name}", prioritised, async (request, response) => {
    const { sql } = services.database;
    const kept = await fileNamed(sql, String(request.params.short));
    const path = kept && services.files.pathOf(kept.file);
    if (!path) return void response.sendStatus(404);
    const ending = fileEnding(kept.file) ?? "";
    const name = `${fileNameOf(kept.name.replace(/\.[^.]*$/, ""))}.${ending}`;
    // What somebody brought is for the reader's own programs to show (RFC 6266); a PDF the browser shows itself.
    response.set("Content-Type", FILE_TYPES[ending]);
    response.set(
      "Content-Disposition",
      `${ending === "pdf" ? "inline" : "attachment"}; filename="${name}"`,
    );
    if (ending !== "pdf") response.set("Content-Security-Policy", "sandbox; default-src 'none'");
    response.sendFile(path, { immutable: true, maxAge: YEAR, dotfiles: "allow" }, (error) => {
      if (error && !response.headersSent) response.sendStatus(404);
    });
  });

  const signIns = rateLimit({
    windowMs: 60_000,
    limit: 20,
    standardHeaders: "draft-7",
    legacyHeaders: false,
    skip: (request) => request.method !== "POST",
  });
  app.use(["/sign-in", "/sign-in.data"], signIns);
  const signUps = rateLimit({
    windowMs: LIMITS.signupNetworkSpan,
    limit: LIMITS.signupsPerNetwork,
    standardHeaders: "draft-7",
    legacyHeaders: false,
    skip: (request) => request.method !== "POST",
  });
  app.use("/join", signUps);

  const { build } = options;
  const pages = createRequestHandler({
    build:
      typeof build === "function"
        ? async () => withReferences(await build(), log)
        : withReferences(build, log),
    getLoadContext: (_request, response) => {
      const context = new RouterContextProvider();
      context.set(servicesContext, services);
      context.set(nonceContext, response.locals.nonce as string);
      context.set(begunContext, begun(response.socket));
      context.set(networkContext, response.req.ip ?? "");
      return context;
    },
  });
  app.all("*splat", prioritised, withHeldBody(pages));
  app.use(lastAnswer(log));
  return app;
}

/** What readers of emails ask for, and those who want to leave: never behind the team's own work. */
const OF_READERS = /^\/([ocupws]|join|confirm|files)\//;

/**
 * Who reads comes first, some at a time, so that a flood of readers leaves room for the team; for whom works here, what
 * is sent beside it begins nothing new.
 */
function withPriority({
  database: { first },
  visitors,
}: Pick<Services, "database" | "visitors">): RequestHandler {
  const readers = inTurn(LIMITS.readersAtOnce, LIMITS.readerTurnMs);
  return (request, response, next) => {
    if (OF_READERS.test(request.path)) {
      return readers(request, response, () => first(() => next()));
    }
    response.once("close", visitors.enter());
    next();
  };
}

export const clientFolder = () => join(projectRoot(), "build/client");
