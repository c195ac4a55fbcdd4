import type { Bar, Strain, Tune } from "../model";

/** A note by the index of its bar in the tune and its order in the bar. */
export type Spot = { bar: number; event: number };

/** A tune after an edit, or why it could not be done and what to do. */
export type Edited = { tune: Tune; refused?: undefined } | { tune?: undefined; refused: string };
export const refused = (message: string): Edited => ({ refused: message });

/** The strain a bar lies in, and its order there. */
export function whereIs(tune: Tune, bar: number): { strain: number; index: number } | undefined {
  let left = bar;
  for (const [strain, { bars }] of tune.strains.entries()) {
    if (left < bars.length) return { strain, index: left };
    left -= bars.length;
  }
  return undefined;
}

export const withStrain = (tune: Tune, strain: number, make: (strain: Strain) => Strain): Tune => ({
  ...tune,
  strains: tune.strains.map((s, i) => (i === strain ? make(s) : s)),
});

/** A tune with one bar changed; all other bars stay the same objects. */
export function withBar(tune: Tune, bar: number, make: (bar: Bar) => Bar): Tune {
  const at = whereIs(tune, bar);
  return at
    ? withStrain(tune, at.strain, (s) => ({ ...s, bars: s.bars.map((b, i) => (i === at.index ? make(b) : b)) }))
    : tune;
}

export const allBars = (tune: Tune): Bar[] => tune.strains.flatMap((s) => s.bars);
