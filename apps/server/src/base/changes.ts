/** Tells whoever keeps something in memory that what visitors see has changed. */
export interface Changes {
  /** Something was published, or a product, the brand or the shop has changed. */
  announce(): void;
  onChange(listener: () => void): void;
}

export function makeChanges(): Changes {
  const listeners: Array<() => void> = [];
  return {
    announce: () => {
      for (const listener of listeners) listener();
    },
    onChange: (listener) => void listeners.push(listener),
  };
}
