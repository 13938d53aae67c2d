const KEY = 'ruta-recent-products';
const MOST = 5;

/** The products that were chosen last in this browser, the latest first. */
export function recentlyChosen(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? kept.filter((id): id is string => typeof id === 'string').slice(0, MOST) : [];
  } catch {
    // Somebody else's words, or a browser that keeps nothing: nothing was chosen lately.
    return [];
  }
}

/** Keeps that a product was chosen. */
export function noteChosen(id: string): void {
  try {
    localStorage.setItem(KEY, JSON.stringify([id, ...recentlyChosen().filter((each) => each !== id)].slice(0, MOST)));
  } catch {
    // A browser that keeps nothing chooses as well without it.
  }
}
