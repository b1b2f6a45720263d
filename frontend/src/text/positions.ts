/** Code points meet UTF-16: the core counts the one, the browser the other. This is the only place that converts. */

/** Return the UTF-16 index of the code point with the 0-based number `column` in `line`. */
export function utf16Column(line: string, column: number): number {
  let index = 0;
  for (const character of line) {
    if (column-- <= 0) break;
    index += character.length;
  }
  return index;
}

/** A text of lines that can be asked for one of them, as CodeMirror's is. */
interface LinedText {
  readonly lines: number;
  line(number: number): { readonly from: number; readonly text: string };
}

/** Return the UTF-16 offset of a place: a 1-based line and a 1-based column in code points, both kept in bounds. */
export function offsetOf(text: LinedText, line: number, column = 1): number {
  const found = text.line(Math.min(Math.max(line, 1), text.lines));
  return found.from + utf16Column(found.text, column - 1);
}
