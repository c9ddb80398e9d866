/** Steps that were stopped: they stay off in this browser until they are changed, or wanted once more. */
const KEY = 'rimefield-left-off';
const MAX_KEYS = 50;

/** By their keys, each with the message to show instead. */
export function disabledSteps(): ReadonlyMap<string, string> {
  try {
    return new Map(JSON.parse(localStorage.getItem(KEY) ?? '[]') as [string, string][]);
  } catch {
    return new Map();
  }
}

export function disableStep(key: string, why: string): void {
  keep([...[...disabledSteps()].filter(([known]) => known !== key), [key, why] as const].slice(-MAX_KEYS));
}

export function enableStep(key: string): void {
  keep([...disabledSteps()].filter(([known]) => known !== key));
}

function keep(steps: readonly (readonly [string, string])[]): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(steps));
  } catch {
    // Without room it is left off for as long as the page lives.
  }
}
