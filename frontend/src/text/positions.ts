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

/** A text of lines that can also be asked for the line at an offset. */
interface PlacedText extends LinedText {
  lineAt(offset: number): { readonly from: number; readonly number: number; readonly text: string };
}

/** Return the place of a UTF-16 offset: a 1-based line and a 1-based column in code points. */
export function placeOf(text: PlacedText, offset: number): { line: number; column: number } {
  const found = text.lineAt(offset);
  return { line: found.number, column: [...found.text.slice(0, offset - found.from)].length + 1 };
}
