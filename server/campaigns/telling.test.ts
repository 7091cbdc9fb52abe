/** Telling another system of a sending: signed, again where it is not heard, and nothing to private addresses. */
import { createServer, type IncomingMessage, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { afterEach, beforeEach, expect, it } from "vitest";
import { createFetcher } from "../fetching/fetcher.ts";
import { runLaunch } from "../jobs/sender.ts";
import { getCampaign } from "../store/campaigns.ts";
import { saveSetting } from "../store/settings.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { scheduleCampaign } from "./scheduling.ts";
import { signatureOf, tell } from "./telling.ts";

let services: TestServices;
let server: Server;
let heard: { body: string; signature: string | undefined }[];
let status = 200;
const bodyOf = async (request: IncomingMessage) => {
  let body = "";
  for await (const part of request) body += part;
  return body;
};
beforeEach(async () => {
  heard = [];
  status = 200;
  server = createServer(async (request, response) => {
    const signature = request.headers["x-signature"] as string | undefined;
    heard.push({ body: await bodyOf(request), signature });
    response.writeHead(status, { Location: "/elsewhere" }).end();
  });
  await new Promise<void>((ok) => server.listen(0, "127.0.0.1", ok));
  const started = await startTestServices();
  services = { ...started, fetcher: createFetcher({ privateToo: true }) };
});
afterEach(async () => {
  server.close();
  await services.close();
});

const address = () => `http://127.0.0.1:${(server.address() as AddressInfo).port}/heard`;
const jobs = async () =>
  (
    await services.database.sql<{
      payload: unknown;
    }>`select payload from jobs where kind = 'tell' order by id`
  ).map(({ payload }) => payload);

async function sent(): Promise<string> {
  const { campaign, member } = await smallCampaign(services, ["one@x.example", "two@x.example"]);
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  const { launchId } = (await getCampaign(services.database.sql, campaign.id))!;
  await runLaunch(services, launchId!);
  // Looked at once more it has ended already.
  await runLaunch(services, launchId!);
  return launchId!;
}

it("tells of the start and the end, each once, with what came of it", async () => {
  await saveSetting(services.database.sql, "webhook", { address: address(), secret: "secret" });
  const launch = await sent();
  const [started, ended, ...others] = await jobs();
  expect(others).toEqual([]);
  await tell(services, started);
  await tell(services, ended);
  for (const { body, signature } of heard) expect(signature).toBe(signatureOf(body, "secret"));
  const told = heard.map(({ body }) => JSON.parse(body));
  expect(told[0]).toMatchObject({ id: `${launch}.started`, event: "sending.started" });
  expect(told[1]).toMatchObject({
    ...{ id: `${launch}.ended`, event: "sending.ended", readers: 2, accepted: 2, bounced: 0 },
    campaign: { name: "A letter" },
  });
});

it("is tried again where it is not heard, for a day; it is not led elsewhere", async () => {
  await saveSetting(services.database.sql, "webhook", { address: address(), secret: "secret" });
  await sent();
  const [started] = await jobs();
  status = 503;
  await expect(tell(services, started)).rejects.toThrow("503");
  status = 302;
  await expect(tell(services, started)).rejects.toThrow("leads on to another");
  expect(heard).toHaveLength(2);
  services.clock.advance(2 * 86_400_000);
  expect(await tell(services, started)).toBeNull();
});

it("tells nobody where nobody listens, and no private address", async () => {
  await sent();
  expect(await jobs()).toEqual([]);
  const guarded = { ...services, fetcher: createFetcher() };
  await saveSetting(services.database.sql, "webhook", { address: address(), secret: "secret" });
  const launch = (await services.database.sql<{ id: string }>`select id from launches`)[0]!.id;
  const at = services.clock.now().toISOString();
  await expect(tell(guarded, { launch, what: "ended", at })).rejects.toThrow();
  expect(heard).toEqual([]);
});
