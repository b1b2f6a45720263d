/** Numbers with their nouns. */

/** Return a number with its noun, such as "1 section" or "12 sections". */
export function counted(number: number, one: string, many = `${one}s`): string {
  return `${number.toLocaleString("en")} ${number === 1 ? one : many}`;
}
