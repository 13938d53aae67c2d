import { By, Key } from 'selenium-webdriver';
import type { Person } from './browser';

const FRAME = 'iframe[title="The page being edited"]';

/** Clicks with the mouse where a part of the edited page really is on the screen: the canvas may be shown smaller. */
export async function clickOnCanvas(person: Person, css: string): Promise<void> {
  await person.find(FRAME);
  await person.until(
    () => person.driver.executeScript<boolean>(`return !!document.querySelector(arguments[0])?.contentDocument?.querySelector(arguments[1])`, FRAME, css),
    `${css} is on the canvas`,
  );
  const place = await person.driver.executeScript<{ x: number; y: number }>(
    `const frame = document.querySelector(arguments[0]);
     const element = frame.contentDocument.querySelector(arguments[1]);
     const scale = frame.getBoundingClientRect().width / frame.offsetWidth;
     const scroller = frame.closest('.overflow-y-auto');
     const top = () => frame.getBoundingClientRect().top + (element.getBoundingClientRect().top + Math.min(element.getBoundingClientRect().height / 2, 40)) * scale;
     scroller.scrollTop += top() - 420;
     const box = element.getBoundingClientRect();
     return { x: Math.round(frame.getBoundingClientRect().left + (box.left + Math.min(box.width / 2, 90)) * scale), y: Math.round(top()) };`,
    FRAME,
    css,
  );
  await person.driver.actions().move({ x: place.x, y: place.y, duration: 0 }).click().perform();
}

/** Clicks into words of the edited page and waits until they can be typed into. */
export async function editWords(person: Person, css: string): Promise<void> {
  await clickOnCanvas(person, css);
  await person.until(
    () => person.driver.executeScript<boolean>('return document.querySelector(arguments[0]).contentDocument.activeElement?.isContentEditable === true', FRAME),
    `${css} can be typed into`,
  );
}

/** What stands on the canvas. */
export function canvasText(person: Person): Promise<string> {
  return person.driver.executeScript<string>(`return document.querySelector(arguments[0])?.contentDocument?.body?.innerText ?? ''`, FRAME);
}

export async function type(person: Person, text: string): Promise<void> {
  await person.driver.actions().sendKeys(text).perform();
}

export async function press(person: Person, ...keys: string[]): Promise<void> {
  const modifiers = keys.slice(0, -1);
  const actions = person.driver.actions();
  for (const key of modifiers) actions.keyDown(key);
  actions.sendKeys(keys.at(-1) ?? '');
  for (const key of modifiers.toReversed()) actions.keyUp(key);
  await actions.perform();
}

/** Waits until everything typed is kept. */
export async function saved(person: Person): Promise<void> {
  await person.until(async () => (await person.text()).includes('Saved '), 'the page is saved');
  await person.until(async () => (await person.driver.findElements(By.css('[data-save="saving"]'))).length === 0, 'nothing is being saved');
}

export { Key };
