/** A number with its word: "1 part", "3 parts". */
export const counted = (number: number, word: string): string =>
  `${String(number)} ${word}${number === 1 ? "" : "s"}`;
