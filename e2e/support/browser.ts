import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Browser, Builder, By, error, type Locator, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome';

const WAIT_MS = 25_000;
/** Asked often: what is waited for is mostly there within a few of these, and a browser answers in one. */
const ASK_EVERY_MS = 60;
/** A little longer than a picture of the screen takes. */
const FRAME_MS = 25;

/** A real browser without a window, with a profile of its own: a person nobody has seen before. */
export class Person {
  /** How each element was found, to find it once more. */
  private readonly foundBy = new WeakMap<WebElement, () => Promise<WebElement>>();

  private constructor(
    readonly driver: WebDriver,
    private readonly profile: string,
  ) {}

  static async arrive(
    options: { width?: number; height?: number; script?: boolean; userAgent?: string; language?: string; textSize?: number } = {},
  ): Promise<Person> {
    const { width = 1280, height = 800, script = true } = options;
    const profile = mkdtempSync(path.join(tmpdir(), 'ruta-browser-'));
    const settings = new chrome.Options().setChromeBinaryPath(process.env.CHROMIUM ?? '/usr/bin/chromium');
    settings.addArguments(
      '--headless=new',
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--disable-dev-shm-usage',
      '--hide-scrollbars',
      '--force-color-profile=srgb',
      `--lang=${options.language ?? 'en-GB'}`,
      `--user-data-dir=${profile}`,
      `--window-size=${width},${height}`,
      ...(options.userAgent ? [`--user-agent=${options.userAgent}`] : []),
    );
    settings.setUserPreferences({
      ...(script ? {} : { 'profile.managed_default_content_settings.javascript': 2 }),
      // What somebody chose in their browser because they do not see well.
      ...(options.textSize ? { 'webkit.webprefs.default_font_size': options.textSize } : {}),
    });
    const driver = await new Builder()
      .forBrowser(Browser.CHROME)
      .setChromeOptions(settings)
      .setChromeService(new chrome.ServiceBuilder(process.env.CHROMEDRIVER ?? '/usr/bin/chromedriver'))
      .build();
    // The size of what is seen, not of a window with borders that nobody sees.
    await (driver as chrome.Driver).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', { width, height, deviceScaleFactor: 1, mobile: width < 500 });
    return new Person(driver, profile);
  }

  async leave(): Promise<void> {
    await this.driver.quit();
    rmSync(this.profile, { recursive: true, force: true });
  }

  /** Makes the processor that the page runs on so many times slower. */
  slowDown(times: number): Promise<unknown> {
    return (this.driver as chrome.Driver).sendDevToolsCommand('Emulation.setCPUThrottlingRate', { rate: times });
  }

  open = (url: string) => this.driver.get(url);
  address = () => this.driver.getCurrentUrl();

  async find(locator: Locator | string): Promise<WebElement> {
    const element = await this.driver.wait(
      until.elementLocated(typeof locator === 'string' ? By.css(locator) : locator),
      WAIT_MS,
      `nothing matches ${JSON.stringify(locator)}`,
      ASK_EVERY_MS,
    );
    this.foundBy.set(element, () => this.find(locator));
    return element;
  }

  findAll(css: string): Promise<WebElement[]> {
    return this.driver.findElements(By.css(css));
  }

  /** A button or link by the words on it. */
  byWords(words: string, tag = '*[self::button or self::a or self::label or self::summary or @role="menuitem"]'): Promise<WebElement> {
    return this.find(By.xpath(`//${tag}[contains(normalize-space(.), ${quoted(words)})]`));
  }

  /** A form's control by the words of its label; looked for again where the form was just drawn anew. */
  async byLabel(label: string): Promise<WebElement> {
    const locator = By.xpath(`//label[starts-with(normalize-space(.), ${quoted(label)})]`);
    const control = await this.driver.wait(
      async () => {
        try {
          const element = await this.driver.findElement(locator);
          const target = await element.getAttribute('for');
          return target ? await this.driver.findElement(By.id(target)) : await element.findElement(By.css('input, select, textarea'));
        } catch (failure) {
          if (failure instanceof error.NoSuchElementError || failure instanceof error.StaleElementReferenceError) return null;
          throw failure;
        }
      },
      WAIT_MS,
      `nothing is labelled “${label}”`,
      ASK_EVERY_MS,
    );
    if (!control) throw new Error(`Nothing is labelled “${label}”.`);
    this.foundBy.set(control, () => this.byLabel(label));
    return control;
  }

  /** Presses it; looks for it again, the same way, where the screen was just drawn anew under the pointer. */
  async click(target: WebElement | string): Promise<void> {
    const latest = Date.now() + WAIT_MS;
    let element = typeof target === 'string' ? await this.byWords(target) : target;
    for (;;) {
      const again = this.foundBy.get(element);
      try {
        return await this.press(element);
      } catch (failure) {
        if (!again || !(failure instanceof error.StaleElementReferenceError) || Date.now() > latest) throw failure;
        element = await again();
      }
    }
  }

  private async press(element: WebElement): Promise<void> {
    await this.driver.executeScript('arguments[0].scrollIntoView({ block: "center", behavior: "instant" })', element);
    await this.driver.wait(until.elementIsEnabled(element), WAIT_MS, undefined, ASK_EVERY_MS);
    await this.standsStill(element);
    await element.click();
  }

  /** A list that grows or shrinks moves what is in it: a person looks where it comes to rest before they press. */
  private async standsStill(element: WebElement): Promise<void> {
    let last = '';
    await this.driver.wait(
      async () => {
        const before = last;
        last = JSON.stringify(await element.getRect());
        return last === before;
      },
      WAIT_MS,
      'what is to be pressed stands still',
      FRAME_MS,
    );
  }

  async type(label: string, text: string): Promise<void> {
    const element = await this.byLabel(label);
    await this.driver.executeScript('arguments[0].scrollIntoView({ block: "center", behavior: "instant" })', element);
    await element.sendKeys(chordSelectAll(), text);
  }

  async choose(label: string, option: string): Promise<void> {
    const select = await this.byLabel(label);
    if ((await select.getTagName()) === 'button') {
      await this.click(select);
      return this.pick(option);
    }
    await select.findElement(By.xpath(`.//option[starts-with(normalize-space(.), ${quoted(option)})]`)).click();
  }

  /** Adds something with a product that is searched for. */
  async addProduct(button: string, product: string): Promise<void> {
    await this.click(await this.byWords(button, 'button'));
    await this.pick(product);
  }

  /** Chooses a product in the chooser that is open. */
  async pick(product: string): Promise<void> {
    const search = await this.find('[role="dialog"] input[role="combobox"]');
    await search.sendKeys(product);
    // What was found before moves away under the pointer when the answer comes.
    await this.until(async () => {
      const asked = await search.getAttribute('value');
      return asked === product && (await this.findAll('[role="listbox"][aria-busy="false"]')).length > 0;
    }, 'the answer to the search is there');
    const found = By.xpath(
      `//*[@role="option"][.//*[starts-with(normalize-space(.), ${quoted(product)})] or starts-with(normalize-space(.), ${quoted(product)})]`,
    );
    await this.click(await this.find(found));
    await this.until(async () => (await this.findAll('[role="listbox"]')).length === 0, 'the chooser closes');
  }

  /** Waits until the page says something. */
  async sees(words: string): Promise<void> {
    await this.driver.wait(async () => (await this.text()).includes(words), WAIT_MS, `“${words}” is not to be seen`, ASK_EVERY_MS);
  }

  text(): Promise<string> {
    return this.driver.executeScript<string>('return document.body ? document.body.innerText : ""').catch(() => '');
  }

  until(condition: () => Promise<boolean>, what: string): Promise<boolean> {
    return Promise.resolve(this.driver.wait(condition, WAIT_MS, what, ASK_EVERY_MS));
  }

  /** Runs an action inside a frame and comes back out. */
  async inside<T>(css: string, action: () => Promise<T>): Promise<T> {
    await this.driver.switchTo().frame(await this.find(css));
    try {
      return await action();
    } finally {
      await this.driver.switchTo().defaultContent();
    }
  }

  async picture(): Promise<Buffer> {
    return Buffer.from(await this.driver.takeScreenshot(), 'base64');
  }
}

function chordSelectAll(): string {
  // Select everything, so that what is typed replaces it.
  return '\uE009a\uE000';
}

function quoted(words: string): string {
  return words.includes('"') ? `'${words}'` : `"${words}"`;
}
