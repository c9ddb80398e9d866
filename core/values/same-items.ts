/** Whether two lists hold the same items in the same order. */
export function areSameItems<T>(some: readonly T[], others: readonly T[]): boolean {
  return some.length === others.length && some.every((one, k) => one === others[k]);
}
