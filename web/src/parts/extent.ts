/** The least and the most of many numbers: as many as there are, where a call with each as an argument ends at some ten thousand. */
export const least = (many: Iterable<number>): number => {
  let found = Number.POSITIVE_INFINITY;
  for (const each of many) if (each < found) found = each;
  return found;
};

export const most = (many: Iterable<number>): number => {
  let found = Number.NEGATIVE_INFINITY;
  for (const each of many) if (each > found) found = each;
  return found;
};
