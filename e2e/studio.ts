/** What a person does in the application, for tests: in the words of the screens. */
import { By, Key, until, type WebDriver, type WebElement } from "selenium-webdriver";
import type { Driver as ChromeDriver } from "selenium-webdriver/chrome.js";
import type { EmailDocument } from "#core/document/index.ts";
import { type BrowserOptions, openBrowser } from "./browser.ts";

const PATIENCE = 20_000;

export type SheetName = "wide" | "narrow";

/** The application that the tests' set-up started. */
async function provided(): Promise<{ base: string; cookie: string }> {
  const { inject } = await import("vitest");
  return { base: inject("base"), cookie: inject("cookie") };
}

/** What a form for a new campaign sends for what it starts from, by the application and the words. */
const starts = new Map<string, Record<string, string>>();

export class Studio {
  private constructor(
    readonly driver: WebDriver,
    readonly base: string,
  ) {}

  /** A browser in which a person is signed in. */
  static async open(
    options: BrowserOptions = {},
    at?: { base: string; cookie: string },
  ): Promise<Studio> {
    at ??= await provided();
    return Studio.with(await openBrowser(options), at);
  }

  /** A person signed in with a browser that is open already. */
  static async with(driver: WebDriver, at: { base: string; cookie: string }): Promise<Studio> {
    const studio = new Studio(driver, at.base);
    await driver.get(`${at.base}/mark.svg`);
    await driver.manage().addCookie({ name: "septima_session", value: at.cookie, path: "/" });
    return studio;
  }

  close = () => this.driver.quit();

  async go(path: string): Promise<void> {
    await this.driver.get(`${this.base}${path}`);
    await this.hydrated();
  }

  /** Waits until the page answers to clicks. */
  async hydrated(): Promise<void> {
    await this.until("the page to be ready", () =>
      this.run<boolean>(
        "return document.readyState === 'complete' && Object.keys(document.body.firstElementChild ?? {}).some(k => k.startsWith('__react'))",
      ),
    );
  }

  /** Makes the window as large as a device's, or (without sizes) as it was. */
  async window(width?: number, height?: number): Promise<void> {
    const driver = this.driver as ChromeDriver;
    if (width === undefined) {
      await driver.sendDevToolsCommand("Emulation.clearDeviceMetricsOverride", {});
    } else {
      await driver.sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
        width,
        height,
        deviceScaleFactor: 1,
        mobile: false,
      });
    }
  }

  /** Asks for light or dark colours, as the device would. */
  async prefer(scheme: "light" | "dark"): Promise<void> {
    await (this.driver as ChromeDriver).sendDevToolsCommand("Emulation.setEmulatedMedia", {
      features: [{ name: "prefers-color-scheme", value: scheme }],
    });
  }

  run<T>(script: string, ...args: unknown[]): Promise<T> {
    return this.driver.executeScript<T>(script, ...args);
  }

  /** Waits for something to be true, and says what for when it is not. */
  async until(what: string, test: () => Promise<unknown>, patience = PATIENCE): Promise<void> {
    const deadline = Date.now() + patience;
    let last: unknown;
    let pause = 15;
    while (Date.now() < deadline) {
      try {
        if (await test()) return;
        last = undefined;
      } catch (error) {
        last = error;
      }
      // A page that is busy is asked less and less often: each look takes time of its own.
      await this.driver.sleep(pause);
      pause = Math.min(250, pause * 1.6);
    }
    const shown = await this.pageText().catch(() => "");
    // What opened last stands at the end.
    const told = shown.length > 2_400 ? `${shown.slice(0, 1_400)}\n…\n${shown.slice(-900)}` : shown;
    throw new Error(`Waited for ${what}; the page shows:\n${told}\n${last ?? ""}`);
  }

  find(css: string): Promise<WebElement> {
    return this.driver.wait(until.elementLocated(By.css(css)), PATIENCE, `no ${css}`);
  }

  /** The control a label names: by `label`, `aria-label` or its own words. */
  async named(name: string, kind = "*"): Promise<WebElement> {
    const quoted = JSON.stringify(name);
    const test = `normalize-space(.)=${quoted} or @aria-label=${quoted} or @id=//label[normalize-space(.)=${quoted}]/@for`;
    const tags =
      kind === "*"
        ? "self::button or self::a or self::input or self::select or self::textarea or @role"
        : `self::${kind}`;
    const path = By.xpath(`//*[(${tags}) and (${test})]`);
    return this.driver.wait(
      async () => {
        for (const element of await this.driver.findElements(path)) {
          if (await element.isDisplayed().catch(() => false)) return element;
        }
        return null as unknown as WebElement;
      },
      PATIENCE,
      `nothing on the page is called “${name}”`,
    );
  }

  /** Clicks, again if the page was just drawing itself anew. */
  async click(name: string, kind = "*"): Promise<void> {
    await this.until(`“${name}” to be clicked`, async () => {
      await (await this.named(name, kind)).click();
      return true;
    });
  }

  async fill(name: string, value: string): Promise<void> {
    const field = await this.named(name);
    await field.click();
    // As a person would: everything is selected and written over.
    await field.sendKeys(Key.chord(Key.CONTROL, "a"), value);
  }

  /** Opens a select and takes the first entry that begins with these words; a long list is searched for them. */
  async choose(name: string, words: string): Promise<void> {
    // What the checks say of a new block moves what is below it: who missed the control clicks once more.
    await this.until(`“${name}” to open`, async () => {
      await (await this.named(name)).click();
      const opened = until.elementLocated(By.css("[role=listbox]"));
      return this.driver.wait(opened, 3_000).then(
        () => true,
        () => false,
      );
    });
    await this.chooseOpened(words);
  }

  /** The same in a list that is open. */
  async chooseOpened(words: string): Promise<void> {
    await this.find("[role=listbox]");
    const searched = await this.driver.findElements(
      By.css("[data-radix-popper-content-wrapper] [cmdk-input]"),
    );
    if (searched.length > 0) {
      // What is found moves the list: a hand on the keys takes what is marked.
      await searched.at(-1)!.sendKeys(words);
      await this.until(`“${words}” to be marked`, () =>
        this.run(
          "return [...document.querySelectorAll('[cmdk-item][data-selected=true]')].at(-1)?.innerText.trim().startsWith(arguments[0])",
          words,
        ),
      );
      await this.press(Key.ENTER);
      await this.until("the list to close", async () =>
        this.run("return document.querySelector('[role=listbox]') === null"),
      );
      return;
    }
    await this.until(`“${words}” to be chosen`, async () => {
      const found = await this.driver.findElements(
        By.xpath(`//*[@role="option"][starts-with(normalize-space(.), ${JSON.stringify(words)})]`),
      );
      await found[0]!.click();
      return true;
    });
    await this.until("the list to close", async () =>
      this.run("return document.querySelector('[role=listbox]') === null"),
    );
  }

  /** Waits until the page shows some words. */
  async sees(words: string, patience = PATIENCE): Promise<void> {
    await this.until(
      `the page to show “${words}”`,
      async () => (await this.pageText()).includes(words),
      patience,
    );
  }
  pageText = () => this.run<string>("return document.body.innerText");

  /** Presses keys where the focus is. */
  press = (...keys: string[]) =>
    this.driver
      .actions()
      .sendKeys(...keys)
      .perform();

  async chord(...keys: string[]): Promise<void> {
    const actions = this.driver.actions();
    const [last, ...held] = [...keys].reverse() as [string, ...string[]];
    for (const key of held.reverse()) actions.keyDown(key);
    actions.sendKeys(last);
    for (const key of held) actions.keyUp(key);
    await actions.perform();
  }

  /** A new campaign from blank, or from what begins so; gives its path. */
  async newCampaign(name: string, from = "A blank email"): Promise<string> {
    const known = starts.get(this.base + from);
    if (known) {
      // The form has been filled in by hand before: it is sent as it was, with another name.
      const path = await this.driver.executeAsyncScript<string>(
        `const [fields, done] = arguments;
         fetch('/campaigns/new.data', { method: 'POST', body: new URLSearchParams(fields) })
           .then((answer) => answer.text()).then((text) => done(/\\/campaigns\\/(?!new)\\w+/.exec(text)[0]))`,
        { ...known, name },
      );
      await this.go(path);
    } else {
      const [kind, start] = from.split(": ") as [string, string?];
      const show = { "A blank email": "blank", Template: "templates" }[kind] ?? "earlier";
      await this.go(`/campaigns/new?${new URLSearchParams({ show, search: start ?? "" })}`);
      if (start) {
        // The first whose name begins like that.
        const begins = (words: string) =>
          this.run<boolean>(
            "const card = [...document.querySelectorAll('main li a')].find((one) => one.innerText.trim().startsWith(arguments[0])); card?.click(); return card !== undefined",
            words,
          );
        await this.until(`“${start}” to be there`, () => begins(start));
      }
      const chosen = () =>
        this.run<Record<string, string> | null>(
          "const form = document.querySelector('main aside form'); return form && form.closest('aside').querySelector('h2').innerText.startsWith(arguments[0]) ? Object.fromEntries(new FormData(form)) : null",
          start ?? from,
        );
      await this.until(`“${from}” to be chosen`, async () => (await chosen()) !== null);
      starts.set(this.base + from, (await chosen())!);
      await this.fill("Name of the campaign", name);
      await this.click("Start composing");
    }
    await this.composing();
    return new URL(await this.driver.getCurrentUrl()).pathname;
  }

  /** Waits until both sheets show the email and it can be worked in. */
  async composing(): Promise<void> {
    await this.until("the sheets", () =>
      this.run<boolean>(
        `${FRAME} return ['wide', 'narrow'].every((name) => {
           const page = frame(name)?.contentDocument;
           return page?.querySelector('[data-node]') && !page.body.inert;
         })`,
      ),
    );
  }

  async saved(): Promise<void> {
    // The page waits by itself: it is saved more often than anything else is waited for.
    await this.until("everything to be saved", () =>
      this.driver.executeAsyncScript<boolean>(
        `const [done] = arguments; const late = performance.now() + 1_000;
         (function look() {
           const saved = document.querySelector('[data-saving]')?.dataset.saving === 'saved';
           if (saved || performance.now() > late) done(saved); else setTimeout(look, 8);
         })();`,
      ),
    );
  }

  /** The words on a sheet, or null while it is not there. */
  sheetText(sheet: SheetName): Promise<string | null> {
    return this.run(
      `${FRAME} const article = frame(arguments[0])?.contentDocument?.querySelector('[role=article]'); return article ? article.innerText : null`,
      sheet,
    );
  }

  async sheetShows(sheet: SheetName, words: string): Promise<void> {
    let shown: string | null = null;
    try {
      await this.until(`the ${sheet} sheet to show “${words}”`, async () => {
        shown = await this.sheetText(sheet);
        return shown?.includes(words);
      });
    } catch (error) {
      throw new Error(`The ${sheet} sheet shows:\n${shown}`, { cause: error });
    }
  }

  /** Where an element of a sheet is in the window: its middle, or a share of its height. */
  pointIn(sheet: SheetName, css: string, share = 0.5): Promise<{ x: number; y: number } | null> {
    return this.run(
      `${FRAME}
      const f = frame(arguments[0]);
      const found = [...f.contentDocument.querySelectorAll(arguments[1])].at(-1);
      if (!found) return null;
      found.scrollIntoView({ block: 'center' });
      const outer = f.getBoundingClientRect();
      const inner = found.getBoundingClientRect();
      const scale = outer.width / f.clientWidth;
      return { x: Math.round(outer.x + (inner.x + inner.width / 2) * scale),
        y: Math.round(outer.y + (inner.y + inner.height * arguments[2]) * scale) };`,
      sheet,
      css,
      share,
    );
  }

  /** Clicks on an element of a sheet once it keeps still: pictures and notes that arrive move it. */
  async clickIn(sheet: SheetName, css: string, times: 1 | 2 = 1): Promise<void> {
    let point = await this.pointIn(sheet, css);
    await this.until(`${css} on the ${sheet} sheet to keep still`, async () => {
      const before = point;
      point = await this.pointIn(sheet, css);
      return point && before && point.x === before.x && point.y === before.y;
    });
    if (!point) throw new Error(`No ${css} on the ${sheet} sheet`);
    const actions = this.driver.actions().move({ ...point, duration: 0 });
    if (times === 1) return actions.click().perform();
    await actions.perform();
    // Told as a double click: the driver would take it for two where the page is busy between them for long.
    for (const clickCount of [1, 2]) {
      for (const type of ["mousePressed", "mouseReleased"]) {
        const event = { type, ...point, button: "left", clickCount };
        await (this.driver as ChromeDriver).sendDevToolsCommand("Input.dispatchMouseEvent", event);
      }
    }
    // The editor settles its selection a moment after it gets the focus; no hand is faster.
    await this.driver.sleep(120);
  }

  /** Takes an element of the page with the mouse to a point, and holds it there. */
  async carry(from: WebElement, to: { x: number; y: number }): Promise<void> {
    await this.driver
      .actions()
      .move({ origin: from, duration: 0 })
      .press()
      .move({ x: to.x, y: to.y - 12, duration: 150 })
      .move({ ...to, duration: 80 })
      .perform();
    await this.find("[data-landing]");
  }

  /** Drags with the mouse from an element of the page to a point, and says what the landing line said. */
  async drag(from: WebElement, to: { x: number; y: number }): Promise<string> {
    await this.carry(from, to);
    const words = await this.run<string>(
      "return document.querySelector('[data-landing]').textContent",
    );
    await this.driver.actions().release().perform();
    return words;
  }

  async dragFromTray(block: string, sheet: SheetName, css: string, share: number): Promise<string> {
    const tray = await this.find(`[data-tray="${block}"]`);
    const point = await this.pointIn(sheet, css, share);
    if (!point) throw new Error(`No ${css} on the ${sheet} sheet`);
    const words = await this.drag(tray, point);
    await this.saved();
    return words;
  }

  /** Puts a block in after the selection, from the searched list. */
  async addBlock(label: string): Promise<void> {
    await this.chord(Key.CONTROL, Key.ENTER);
    await this.find("[cmdk-input]");
    await this.press(label);
    await this.until(`“${label}” to be found`, () =>
      this.run(
        "return document.querySelector('[cmdk-item][data-selected=true]')?.innerText.startsWith(arguments[0])",
        label,
      ),
    );
    await this.press(Key.ENTER);
    await this.until("the list to close", () =>
      this.run("return document.querySelector('[cmdk-input]') === null"),
    );
    // The spot after the selection is offered first.
    await this.find("[data-landing]");
    // Another block of the same kind may have been selected before.
    const step = "document.querySelector('[aria-label=Path] [aria-current]')";
    await this.run(`window.stepBefore = ${step}`);
    await this.press(Key.ENTER);
    await this.until(`the settings of “${label}”`, () =>
      this.run(
        `const step = ${step}; return step !== window.stepBefore && step?.textContent === arguments[0]`,
        label,
      ),
    );
    await this.saved();
  }

  /** Takes the first picture of the library in the settings of what is selected. */
  async takePicture(name = ""): Promise<void> {
    await (await this.find("button[aria-label$=': choose']")).click();
    await (await this.find(`[aria-label=Library] button[aria-label^='Take ${name}']`)).click();
    await this.saved();
  }

  /** A point of a row in the running order, at a share of its height. */
  async rowPoint(words: string, share = 0.5): Promise<{ x: number; y: number }> {
    const point = await this.run<{ x: number; y: number } | null>(
      `const row = [...document.querySelectorAll('[data-order]')].find((e) => e.querySelector('[data-row-name]')?.textContent === arguments[0]);
       if (!row) return null;
       row.scrollIntoView({ block: 'nearest' });
       const { left, top, height } = row.getBoundingClientRect();
       return { x: Math.round(left + 60), y: Math.round(top + height * arguments[1]) };`,
      words,
      share,
    );
    if (!point) throw new Error(`The running order has no “${words}”`);
    return point;
  }

  async clickRow(words: string, held?: string): Promise<void> {
    const point = await this.rowPoint(words);
    const actions = this.driver.actions();
    if (held) actions.keyDown(held);
    await actions
      .move({ ...point, duration: 0 })
      .click()
      .perform();
    if (held) await this.driver.actions().keyUp(held).perform();
  }

  /** Drags from a point to another; gives what the landing line said. */
  async dragFrom(from: { x: number; y: number }, to: { x: number; y: number }): Promise<string> {
    await this.driver
      .actions()
      .move({ ...from, duration: 0 })
      .press()
      .move({ x: to.x + 3, y: to.y - 8, duration: 120 })
      .move({ ...to, duration: 80 })
      .perform();
    return this.land();
  }

  /** Lets go of what is dragged, and gives what the landing line said. */
  async land(): Promise<string> {
    await this.find("[data-landing]");
    const words = await this.run<string>(
      "return document.querySelector('[data-landing]').textContent",
    );
    await this.driver.actions().release().perform();
    await this.saved();
    return words;
  }

  /** Pastes into what has the focus on a sheet. */
  async paste(sheet: SheetName, data: Record<string, string>): Promise<void> {
    await this.inSheet(
      sheet,
      `const clipboard = new DataTransfer();
       for (const [type, text] of Object.entries(args[0])) clipboard.setData(type, text);
       const target = page.activeElement ?? page.body;
       const view = page.defaultView;
       target.dispatchEvent(new view.ClipboardEvent('paste', { clipboardData: clipboard, bubbles: true, cancelable: true }));`,
      data,
    );
  }

  /** The line to the server: as it is, with two seconds to each answer, or cut. */
  async line(how: "well" | "slow" | "cut"): Promise<void> {
    const throughput = how === "cut" ? 0 : -1;
    await (
      this.driver as unknown as { setNetworkConditions(conditions: object): Promise<void> }
    ).setNetworkConditions({
      offline: how === "cut",
      latency: how === "slow" ? 2_000 : 0,
      download_throughput: throughput,
      upload_throughput: throughput,
    });
  }

  /**
   * Lets nothing that the page asks for go out until it is released (or nothing with this in its address):
   * a slow line, without a race.
   */
  hold = (what = "") =>
    this.run(
      `const real = window.fetch; const [what] = arguments;
       const held = new Promise((ok) => { window.releaseFetch = () => { window.fetch = real; ok(); }; });
       window.fetch = (...asked) =>
         String(asked[0].url ?? asked[0]).includes(what) ? held.then(() => real(...asked)) : real(...asked);`,
      what,
    );
  release = () => this.run("window.releaseFetch()");

  /** The email as it is stored. */
  async storedDocument(path: string): Promise<EmailDocument> {
    const text = await this.driver.executeAsyncScript<string>(
      `const [path, done] = arguments;
       fetch(path + '/history?at=latest').then((r) => r.json()).then(({ doc }) => done(JSON.stringify(doc)))`,
      path,
    );
    return JSON.parse(text) as EmailDocument;
  }

  /** Runs a script with `page`, the document of a sheet. */
  inSheet<T>(sheet: SheetName, script: string, ...args: unknown[]): Promise<T> {
    return this.run<T>(
      `${FRAME} const page = frame(arguments[0]).contentDocument; const args = [...arguments].slice(1); ${script}`,
      sheet,
      ...args,
    );
  }

  /** What the running order lists, top to bottom. */
  runningOrder(): Promise<string[]> {
    return this.run(
      "return [...document.querySelectorAll('[data-row-name]')].map(e => e.textContent)",
    );
  }

  selectAll = () => this.chord(Key.CONTROL, "a");
}

const FRAME = `const frame = name => document.querySelector(
  name === 'wide' ? "[aria-label='Wide sheet'] iframe" : "[aria-label='Narrow sheet'] iframe");`;
