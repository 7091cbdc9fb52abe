/** The first hour: from an empty folder to a test in the outbox, led by the desk. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { type Running, startApplication } from "./server.ts";
import { Studio } from "./studio.ts";

let app: Running;
let studio: Studio;
beforeAll(async () => {
  app = await startApplication(undefined, {}, { demo: false });
  studio = await Studio.open({}, app);
}, 60_000);
afterAll(async () => {
  await studio?.close();
  await app?.stop();
});

const PASSWORD = "four words and a number 7";

/** The steps that are still to do. */
const left = () =>
  studio.run<string[]>(
    `return [...document.querySelectorAll("[data-step]")]
       .filter((step) => step.innerText.startsWith("To do:")).map((step) => step.dataset.step)`,
  );
const desk = async (...expected: string[]) => {
  await studio.go("/");
  await studio.until(
    `the steps ${expected.join(", ")}`,
    async () => [...(await left())].join() === expected.join(),
  );
};

it("leads from an empty folder to a test in the outbox", async () => {
  await desk(
    "Who you are",
    "The brand",
    "People",
    "The first email",
    "A test to yourself",
    "Delivery",
  );
  await studio.sees("Start the first");
  // The steps are taken in whatever order.
  await studio.click("Send yourself one message", "button");
  await studio.until("it to be taken", async () => !(await left()).includes("Delivery"));

  await studio.click("Write it in the settings", "a");
  await studio.fill("Your name", "Mara Ellis");
  await studio.fill("You sign in with", "mara@larkmoor.example");
  await studio.fill("New password", PASSWORD);
  await studio.click("Save", "button");
  await studio.sees("Saved");
  await studio.fill("Brand name", "Larkmoor Botanic Garden");
  await studio.fill("Postal address", "1 Garden Lane, Saltmere");
  await studio.fill("From (name)", "Larkmoor");
  await studio.fill("From (address)", "news@larkmoor.example");
  await studio.click("Save the sender", "button");
  await studio.until("the sender to be saved", async () => {
    const page = await fetch(app.base, { headers: { cookie: `septima_session=${app.cookie}` } });
    return /Done:<\/span><\/span><div[^>]*><div[^>]*>The brand/.test(await page.text());
  });

  await desk("People", "The first email", "A test to yourself");
  await studio.click("Put in twenty samples", "button");
  await studio.sees("20 of your people are samples");
  await desk("The first email", "A test to yourself");

  // The template that ships is there.
  await studio.newCampaign("Our first letter", "Template: Calm newsletter");
  await studio.composing();
  await desk("A test to yourself");
  await studio.click("Go to the Proof room", "a");
  await studio.fill("Send a test to", "mara@larkmoor.example");
  await studio.click("Send the test", "button");
  await studio.sees("just now");
  await studio.go("/outbox");
  await studio.sees("mara@larkmoor.example");
  await desk();
  await studio.sees("Ready to send");

  await studio.click("Take them out", "button");
  await desk("People");
  await studio.go("/people/lists");
  await studio.sees("No lists yet");
}, 120_000);

it("takes somebody into the team by an address that works once, and out again", async () => {
  await studio.go("/settings");
  await studio.fill("Their name", "Theo Brandt");
  await studio.fill("They sign in with", "theo@larkmoor.example");
  await studio.press(Key.ENTER);
  await studio.sees("With this address Theo Brandt signs in");
  const address = await (await studio.named("Sign-in address of Theo Brandt")).getAttribute(
    "value",
  );

  const signIn = () => fetch(address!, { redirect: "manual" });
  const theirs = /septima_session=([^;]+)/.exec(
    (await signIn()).headers.get("set-cookie") ?? "",
  )?.[1];
  expect(theirs).toBeDefined();
  expect((await signIn()).headers.get("set-cookie") ?? "").not.toContain("septima_session=");
  const visit = () =>
    fetch(`${app.base}/settings`, {
      headers: { cookie: `septima_session=${theirs}`, accept: "text/html" },
      redirect: "manual",
    });
  const page = await (await visit()).text();
  expect(page).toContain("Theo Brandt");
  // A designer says nothing about who is in the team.
  expect(page).not.toContain("Add to the team");

  await studio.click("Remove", "button");
  await studio.click("Take them out", "button");
  await studio.until("them to be gone", async () => !(await studio.pageText()).includes("theo@"));
  expect((await visit()).status).toBe(302);
}, 60_000);
