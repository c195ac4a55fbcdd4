type Made = { from: readonly unknown[]; made: unknown };

/** What was made over each analysis, the latest first. */
const known = new WeakMap<object, Made[]>();
/** As many things as are looked at together: every style of each hand. */
const MOST = 24;

/**
 * What follows from an analysis and some other things, made once for all who look while these are the very same. Looked
 * up whenever anything on the page changes, so nothing is compared by what is in it.
 */
export function once<T>(analysis: object, from: readonly unknown[], make: () => T): T {
  const kept = known.get(analysis) ?? [];
  const found = kept.find((m) => m.from.length === from.length && m.from.every((x, i) => Object.is(x, from[i])));
  if (found) return found.made as T;
  const made = make();
  known.set(analysis, [{ from, made }, ...kept].slice(0, MOST));
  return made;
}
