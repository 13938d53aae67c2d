import type { WaitingChange } from './mapSlice';

const PREFIX = 'ruta.map.';

/** Changes of a map that never reached the server, from before a reload of this window. */
export function keptChanges(funnelId: string): WaitingChange[] {
  try {
    return JSON.parse(sessionStorage.getItem(PREFIX + funnelId) ?? '[]') as WaitingChange[];
  } catch {
    return [];
  }
}

/** Keeps what the server does not have yet for as long as the window is open; nothing once it has everything. */
export function keepChanges(funnelId: string, waiting: readonly WaitingChange[]): void {
  try {
    if (waiting.length === 0) sessionStorage.removeItem(PREFIX + funnelId);
    else sessionStorage.setItem(PREFIX + funnelId, JSON.stringify(waiting));
  } catch {
    // Larger than the browser keeps: it waits in memory.
  }
}
