/** Headless Chromium through ChromeDriver; both are Debian's, given by path so that nothing is fetched. */
import { existsSync } from "node:fs";
import { Builder, type WebDriver } from "selenium-webdriver";
import { Options, ServiceBuilder } from "selenium-webdriver/chrome.js";

export interface BrowserOptions {
  readonly width?: number;
  readonly height?: number;
  readonly dark?: boolean;
  /** Sets further options of the browser. */
  prepare?(chrome: Options): void;
}

/**
 * Chromium without the window around its pages, where it is installed: the same engine, which takes a third less of the
 * processor for a test. Chromium itself draws its window also where nobody sees it.
 */
// Not Debian's starter in /usr/bin: ChromeDriver would end that alone, and the browser would go on.
const SHELL = "/usr/lib/chromium/chromium-headless-shell";
const BROWSER = existsSync(SHELL) ? SHELL : "/usr/bin/chromium";

/** A browser with a profile of its own, which goes with it. */
export async function openBrowser(options: BrowserOptions = {}): Promise<WebDriver> {
  const { width = 1280, height = 800, dark = false } = options;
  const chrome = new Options();
  chrome.setBinaryPath(BROWSER);
  chrome.addArguments(
    "--headless",
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
