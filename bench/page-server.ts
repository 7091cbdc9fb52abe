/** Serves a page for measuring: its script is built from a file of this folder, its frames are what is given. */
import { mkdtemp, readFile, rm } from "node:fs/promises";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build } from "vite";
import { projectRoot } from "#server/root.ts";

export interface PageServer {
  readonly address: string;
  /** Changes what is served at a path. */
  serve(path: string, html: string): void;
  stop(): Promise<void>;
}

export async function servePage(entry: string, pages: Record<string, string>): Promise<PageServer> {
  const root = projectRoot();
  const outDir = await mkdtemp(join(tmpdir(), "septima-bench-"));
  await build({
    configFile: false,
    root,
    logLevel: "error",
    define: { "process.env.NODE_ENV": '"production"' },
    build: {
      outDir,
      target: "es2022",
      lib: { entry: join(root, "bench", entry), formats: ["es"], fileName: "page" },
    },
  });
  const script = await readFile(join(outDir, "page.js"));
  const served = new Map(Object.entries(pages));
  const server = createServer((request, response) => {
    if (request.url === "/page.js") {
      response.setHeader("content-type", "text/javascript");
      return void response.end(script);
    }
    const page = served.get(request.url ?? "/");
    response.statusCode = page === undefined ? 404 : 200;
    response.setHeader("content-type", "text/html; charset=utf-8");
    response.end(page ?? "");
  });
  await new Promise<void>((ok) => server.listen(0, "127.0.0.1", ok));
  const { port } = server.address() as AddressInfo;
  return {
    address: `http://127.0.0.1:${port}`,
    serve: (path, html) => void served.set(path, html),
    async stop() {
      server.close();
      await rm(outDir, { recursive: true, force: true });
    },
  };
}
