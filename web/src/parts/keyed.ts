/** Things alike that have no identity but their place: each with a key of that place. */
export const keyed = <T>(list: readonly T[]): { key: string; one: T; at: number }[] =>
  list.map((one, at) => ({ key: String(at), one, at }));
