/** Entry of the built application: `node build/server/main.js [--demo]`. */
import { seedDemo } from "#demo/seed.ts";
import { ConfigError, readConfig } from "./config.ts";
import { StartError } from "./db/open.ts";
import { clientFolder, createApp } from "./http/app.ts";
import { surviveErrors } from "./http/failures.ts";
import { listen, signInAddress, startServices } from "./start.ts";

const demo = process.argv.includes("--demo");
const progress = (line: string) => console.log(`  ${line}`);

async function main(): Promise<void> {
  const config = readConfig(process.env);
  // The pages are read while the database opens.
  const build = import("virtual:react-router/server-build");
  const started = await startServices(config, {
    worker: new URL("./db-worker.js", import.meta.url),
    reader: new URL("./import-worker.js", import.meta.url),
    maker: new URL("./making-worker.js", import.meta.url),
    arriving: new URL("./arriving-worker.js", import.meta.url),
    speller: new URL("./spelling-worker.js", import.meta.url),
    drawer: new URL("./picture-child.js", import.meta.url),
    progress,
    prepare: demo ? (services) => seedDemo(services, progress) : undefined,
  });
  const { services } = started;
  surviveErrors(services.log);
  const app = createApp(services, {
    build: await build,
    client: clientFolder(),
  });
  const server = await listen(app, config).catch(async (error) => {
    await started.stop();
    throw error;
  });

  console.log(`\nSeptima is ready. Sign in once with this address:\n`);
  console.log(`  ${await signInAddress(services)}\n`);

  let stopping = false;
  const stop = async () => {
    // Told twice: at once. What is under way is taken up at the next start.
    if (stopping) process.exit(1);
    stopping = true;
    server.close();
    server.closeAllConnections();
    await started.stop();
    process.exit(0);
  };
  process.on("SIGINT", stop);
  process.on("SIGTERM", stop);
}

main().catch((error) => {
  const plain = error instanceof StartError || error instanceof ConfigError;
  console.error(plain ? error.message : error);
  process.exit(1);
});
