/** The words of a text with commas between them, such as tags: trimmed, each once, none empty. */
export const wordsAtCommas = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((word) => word.trim())
      .filter(Boolean),
  ),
];
