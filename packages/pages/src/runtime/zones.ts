/**
 * Shows the times of appointments by the clock of whoever looks at them, on the days on which they fall there, and has the
 * zone sent along, so that mails tell the same. Without a script they are by the shop's clock, which is named.
 */
export function showOwnTimes(times: HTMLElement): void {
  const shop = times.dataset.zone;
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const form = times.closest('form');
  const told = form?.querySelector<HTMLInputElement>('input[name=zone]');
  if (!shop || !own || !told) return;
  told.value = own;
  const words = form?.querySelector<HTMLElement>('[data-zone-words]');
  const days = [...times.querySelectorAll('details')];
  const [pattern] = days;
  if (own === shop || !words || !pattern) return;
  const language = document.documentElement.lang;
  const day = new Intl.DateTimeFormat(language, { timeZone: own, weekday: 'long', day: 'numeric', month: 'long' });
  const time = new Intl.DateTimeFormat(language, { timeZone: own, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
  const byDay = new Map<string, HTMLElement[]>();
  for (const slot of times.querySelectorAll<HTMLElement>('.slot')) {
    const start = Number(slot.querySelector('input')?.value);
    const name = slot.querySelector('span');
    if (name) name.textContent = time.format(start);
    byDay.set(day.format(start), [...(byDay.get(day.format(start)) ?? []), slot]);
  }
  const shown = [...byDay].map(([name, slots]) => {
    const details = pattern.cloneNode(true) as HTMLDetailsElement;
    const summary = details.querySelector('summary');
    if (summary) {
      const count = summary.querySelector('span');
      summary.replaceChildren(`${name} `, ...(count ? [count] : []));
      if (count) count.textContent = slots.length === 1 ? 'one time' : `${slots.length} times`;
    }
    details.querySelector('.slot-row')?.replaceChildren(...slots);
    return details;
  });
  days[0]?.before(...shown);
  for (const old of days) old.remove();
  // Only now, since of days with one name one is open at a time.
  const chosen = shown.find((details) => details.querySelector(':checked')) ?? shown[0];
  for (const details of shown) details.open = details === chosen;
  words.textContent = own.split('/').at(-1)?.replaceAll('_', ' ') ?? own;
}
