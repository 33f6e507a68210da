/** Short lines for narrow places. */

/** Cut a text to a length, with an ellipsis. */
export const clip = (text: string, length: number): string =>
  text.length <= length ? text : `${text.slice(0, length - 1).trimEnd()}…`;

/** Break words into at most three lines of a length. */
export function wrap(text: string, length: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(" ")) {
    const last = lines.at(-1);
    if (last !== undefined && `${last} ${word}`.length <= length) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines.length <= 3 ? lines : [...lines.slice(0, 2), clip(lines.slice(2).join(" "), length)];
}
