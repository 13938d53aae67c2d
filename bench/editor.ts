import { newElement, words } from '@ruta/core/elements';
import { type IdKind, makeId } from '@ruta/core/ids';
import { buildSection } from '@ruta/core/sections';
import { Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { Person } from '../e2e/support/browser';
import { editWords } from '../e2e/support/canvas';
import { arriveAsOwner } from '../e2e/support/owner';
import { inPairs } from './measure';

const ELEMENTS = 300;
const EACH = 10;
const KEYS = 30;
const PAIRS = 5;

const newId = (kind: IdKind) => makeId(kind, Date.now(), crypto.getRandomValues(new Uint8Array(10)));

/** From a key to the paint that shows it, in milliseconds: the median of many keys. The document is a frame's, or the window's own. */
const timing = (frame: string) => `
  const done = arguments[arguments.length - 1];
  const view = ${frame};
  view.ruta = [];
  view.document.addEventListener('keydown', (event) => {
    const start = event.timeStamp;
    view.requestAnimationFrame(() => { const channel = new MessageChannel(); channel.port1.onmessage = () => view.ruta.push(view.performance.now() - start); channel.port2.postMessage(0); });
  }, { capture: true });
  done();`;
const median = (frame: string) => `const view = ${frame}; const all = view.ruta.splice(0).sort((a, b) => a - b); return all[Math.floor(all.length / 2)];`;

async function typeKeys(person: Person, read: string): Promise<number> {
  for (let key = 0; key < KEYS; key++) await person.driver.actions().sendKeys('a').perform();
  return person.driver.executeScript<number>(read);
}

/** A key press to its paint on a page of 300 elements, against the same key in a bare editable paragraph. */
export async function editorBench() {
  const ruta = await Installation.start({ settings: { NODE_ENV: 'production' } });
  const api = await Seller.ofNewShop(ruta.studio);
  const funnel = await api.sellingFunnel();
  const { page, revision } = await api.read(`/steps/${funnel.entry}/page`);
  const sections = Array.from({ length: ELEMENTS / EACH }, (_, index) => {
    const section = buildSection({ name: `Part ${index}`, columns: [{ span: 12, parts: [] }] }, newId);
    section.columns[0]?.elements.push(
      ...Array.from({ length: EACH }, () => ({ ...newElement('text', newId), words: words('Some words that stand here.') }) as never),
    );
    return section;
  });
  await api.make(`/steps/${funnel.entry}/page`, { revision, page: { ...page, sections } }, 'PUT');
  const editing = await arriveAsOwner(ruta.studio);
  const bare = await Person.arrive();
  try {
    await editing.open(`${ruta.studio}/funnels/${funnel.id}/page/${funnel.entry}`);
    await editWords(editing, '.edit-section:nth-of-type(15) .words');
    const frame = `document.querySelector('iframe[title="The page being edited"]').contentWindow`;
    await editing.driver.executeAsyncScript(timing(frame));
    await bare.open('data:text/html,<p contenteditable>Some words that stand here.</p>');
    await bare.driver.executeScript(`document.querySelector('p').focus()`);
    await bare.driver.executeAsyncScript(timing('window'));
    return await inPairs(
      'editor',
      'ms',
      PAIRS,
      () => typeKeys(editing, median(frame)),
      () => typeKeys(bare, median('window')),
    );
  } finally {
    await editing.leave();
    await bare.leave();
    await ruta.stop();
  }
}
