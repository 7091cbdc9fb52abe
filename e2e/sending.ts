/** Choosing readers and sending to them, for tests. */
import { By } from "selenium-webdriver";
import type { Studio } from "./studio.ts";

/** Clicks how a list is used among the readers. */
export async function chooseList(
  studio: Studio,
  list: string,
  how: "include" | "exclude" | "none",
): Promise<void> {
  const row = By.xpath(`//fieldset[.//legend[normalize-space(.)='${list}']]`);
  const set = await studio.driver.findElement(row);
  await set.findElement(By.css(`input[value=${how}]`)).click();
}

/** How many readers the page counts; waits for a count that fits. */
export async function readersCounted(
  studio: Studio,
  fits: (readers: number) => boolean,
): Promise<number> {
  let readers = Number.NaN;
  await studio.until("readers to be counted", async () => {
    readers = Number((await (await studio.find("[data-readers]")).getText()).replace(",", ""));
    return fits(readers);
  });
  return readers;
}

/** Chooses the demo's smallest list alone, so that a send is soon done; gives how many it has. */
export async function toVolunteers(studio: Studio, path: string): Promise<number> {
  await studio.go(`${path}/readers`);
  await chooseList(studio, "Newsletter", "none");
  await chooseList(studio, "Volunteers", "include");
  return readersCounted(studio, (readers) => readers > 0 && readers < 200);
}

/** Clicks the button that begins so, once it is there. */
export async function confirm(studio: Studio, begins: string): Promise<void> {
  await studio.until(`“${begins} …” to be clicked`, async () => {
    for (const button of await studio.driver.findElements(By.css("button"))) {
      if (!(await button.getText()).startsWith(begins)) continue;
      await button.click();
      return true;
    }
    return false;
  });
}

/** Sends a campaign now, as somebody who has read the question. */
export async function sendNow(studio: Studio, path: string): Promise<void> {
  await studio.go(`${path}/schedule`);
  await studio.click("Now");
  await studio.click("Send it now");
  await confirm(studio, "Yes, send to");
}
