const BYTES_PER_UNIT = 1024;

/** A file's size for people: `3.2 MB`. */
export function formatBytes(bytes: number): string {
  const units = ['bytes', 'KB', 'MB', 'GB'];
  let size = bytes;
  let unit = 0;
  while (size >= BYTES_PER_UNIT && unit < units.length - 1) {
    size /= BYTES_PER_UNIT;
    unit++;
  }
  return `${unit === 0 || size >= 100 ? Math.round(size) : size.toFixed(1)} ${units[unit]}`;
}
