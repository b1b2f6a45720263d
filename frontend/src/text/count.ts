/** Numbers with their nouns. */

/** Return a number with its noun, such as "1 section" or "12 sections". */
export function counted(number: number, one: string, many = `${one}s`): string {
  return `${number.toLocaleString("en")} ${number === 1 ? one : many}`;
}

/** Return a size in bytes as people say it. */
export function sizeOf(bytes: number): string {
  if (bytes < 1024) return `${bytes} bytes`;
  return bytes < 1024 * 1024 ? `${Math.round(bytes / 1024)} KB` : `${(bytes / 1024 / 1024).toFixed(1)} MB`;
}
