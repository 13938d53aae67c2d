import { useSyncExternalStore } from 'react';

const subscribe = (listener: () => void) => {
  addEventListener('resize', listener);
  return () => removeEventListener('resize', listener);
};

/** How wide the window is inside, in CSS pixels, without its scrollbar. */
export const useWindowWidth = (): number => useSyncExternalStore(subscribe, () => document.documentElement.clientWidth);
