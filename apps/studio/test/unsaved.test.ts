import { optInPage } from '@ruta/core/templates';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';

const page = optInPage({ name: 'Gift', pictureIds: [] }, (kind) => `${kind}_000001`);
const draft = { stepId: 'stp_1', place: { funnelId: 'fnl_1', name: 'Gift' }, revision: 3, page, pictures: {}, sending: null };

/** A browser's storage; with a limit it takes nothing larger. */
function storage(limit = Number.POSITIVE_INFINITY): Storage {
  const items: Record<string, string> = {};
  const methods = {
    getItem: (key: string) => items[key] ?? null,
    setItem: (key: string, value: string) => {
      if (value.length > limit) throw new DOMException('full', 'QuotaExceededError');
      items[key] = value;
    },
    removeItem: (key: string) => void delete items[key],
  };
  return new Proxy(items, { get: (_target, name) => methods[name as 'getItem'] ?? items[String(name)] }) as unknown as Storage;
}

async function browser(limit?: number) {
  vi.resetModules();
  vi.stubGlobal('localStorage', storage(limit));
  vi.stubGlobal('sessionStorage', storage());
  vi.stubGlobal('addEventListener', () => undefined);
  return import('../src/page/unsaved');
}
beforeEach(() => {
  vi.useFakeTimers({ now: 1000 });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it('what was set aside while an older state was on its way is not forgotten with that one', async () => {
  const { unsavedPages } = await browser();
  unsavedPages.keep(draft);
  const older = unsavedPages.find('stp_1');
  if (!older) throw new Error('nothing is kept');
  expect(unsavedPages.isNewest(older)).toBe(true);
  vi.setSystemTime(2000);
  unsavedPages.keep({ ...draft, page: { ...page, title: 'Newer' } });
  expect(unsavedPages.isNewest(older)).toBe(false);
  expect(unsavedPages.find('stp_1')?.page.title).toBe('Newer');
  unsavedPages.forget(older.stepId);
  expect(unsavedPages.find('stp_1')).toBeUndefined();
});

it('what the browser has no room for is kept as long as the window is open', async () => {
  const { unsavedPages } = await browser(10);
  unsavedPages.keep(draft);
  expect(unsavedPages.find('stp_1')?.page).toEqual(page);
});

it('what another window set aside is taken up only once that window has had time to send it', async () => {
  const { unsavedPages } = await browser();
  unsavedPages.keep(draft);
  const [own] = unsavedPages.seen();
  localStorage.setItem('ruta.unsaved.stp_2.other', JSON.stringify({ ...own, stepId: 'stp_2', windowId: 'other' }));
  unsavedPages.keep({ ...draft, revision: 4 });
  expect(unsavedPages.all(2000).map((entry) => entry.stepId)).toEqual(['stp_1']);
  expect(unsavedPages.all(1000 + 61_000)).toHaveLength(2);
});
