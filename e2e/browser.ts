/** Headless Chromium through ChromeDriver; both are Debian's, given by path so that nothing is fetched. */
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Builder, type WebDriver } from "selenium-webdriver";
import { Options, ServiceBuilder } from "selenium-webdriver/chrome.js";

export interface BrowserOptions {
  readonly width?: number;
  readonly height?: number;
  readonly dark?: boolean;
  /** Sets further options of the browser. */
  prepare?(chrome: Options): void;
}

export async function openBrowser(options: BrowserOptions = {}): Promise<WebDriver> {
  const { width = 1280, height = 800, dark = false } = options;
  const chrome = new Options();
  chrome.setBinaryPath("/usr/bin/chromium");
  chrome.addArguments(
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
    "--hide-scrollbars",
    // As somebody sits before it: a program that says it is headless is taken for a machine.
    "--user-agent=Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/150.0.0.0 Safari/537.36",
    `--window-size=${width},${height}`,
    `--user-data-dir=${mkdtempSync(join(tmpdir(), "septima-browser-"))}`,
  );
  if (dark) chrome.addArguments("--force-dark-mode", "--blink-settings=preferredColorScheme=0");
  options.prepare?.(chrome);
  const driver = await new Builder()
    .forBrowser("chrome")
    .setChromeOptions(chrome)
    .setChromeService(new ServiceBuilder("/usr/bin/chromedriver"))
    .build();
  // A script that asks for a hundred pages takes its time on a busy machine; tests have limits of their own.
  await driver.manage().setTimeouts({ script: 110_000 });
  // The window's own edges take some pixels: the page itself gets the size asked for.
  const [w, h] = (await driver.executeScript("return [innerWidth, innerHeight]")) as [
    number,
    number,
  ];
  await driver
    .manage()
    .window()
    .setRect({ width: width + (width - w), height: height + (height - h) });
  return driver;
}
