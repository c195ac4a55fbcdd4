import { alterIn, type Key, type Pitch } from "../../theory";
import type { Bar, Strain, Tune } from "../model";
import { places } from "../time";
import { type Edited, refused, whereIs, withBar, withStrain } from "./place";

/** A repeat round the strain of a bar, on or off. */
export function toggleRepeat(tune: Tune, bar: number): Edited {
  const at = whereIs(tune, bar);
  const strain = at && tune.strains[at.strain];
  if (!at || !strain) return refused("There is no strain there any more.");
  const repeated = strain.bars.some((b) => b.repeatEnd);
  const bare = strain.bars.map(({ repeatStart: _, repeatEnd: _e, ending: _n, endingStop: _s, ...b }): Bar => b);
  const bars = repeated
    ? bare
    : bare.map(
        (b, i): Bar => ({
          ...b,
          ...(i === 0 && at.strain > 0 ? { repeatStart: true } : {}),
          ...(i === bare.length - 1 ? { repeatEnd: 2, barline: "final" as const } : {}),
        }),
      );
  return { tune: withStrain(tune, at.strain, (s) => ({ ...s, bars })) };
}

/** An ending that starts at a bar, or none. A first ending gets its repeat where the second begins. */
export function setEnding(tune: Tune, bar: number, pass: number | undefined): Edited {
  const at = whereIs(tune, bar);
  if (!at) return refused("There is no bar there any more.");
  if (pass === undefined) return { tune: withBar(tune, bar, ({ ending: _, endingStop: _s, ...b }) => b) };
  const before = tune.strains[at.strain]?.bars[at.index - 1];
  if (!before) return refused("An ending needs bars before it in the same strain.");
  const marked = withBar(tune, bar, (b) => ({ ...b, ending: [pass] }));
  return {
    tune:
      pass > 1
        ? withBar(marked, bar - 1, (b) => ({ ...b, repeatEnd: b.repeatEnd ?? 2, endingStop: true, barline: "final" }))
        : marked,
  };
}

/** A new name for the strain of a bar. Intro, Vamp and Tag are told apart by their names. */
export function renameStrain(tune: Tune, bar: number, label: string): Edited {
  const at = whereIs(tune, bar);
  const name = label.replace(/\s+/g, " ").trim().slice(0, 80);
  if (!at) return refused("There is no strain there any more.");
  if (!name) return refused("A strain needs a name, such as A or Intro.");
  return { tune: withStrain(tune, at.strain, (s) => ({ ...s, label: name, named: true })) };
}

const relabelled = (strains: readonly Strain[]): Strain[] => {
  let order = 0;
  return strains.map((s) => {
    const plain = !s.named && /^[A-Z]\d*$/.test(s.label);
    return plain ? { ...s, label: String.fromCharCode(65 + (order++ % 26)) } : s;
  });
};

/** A new strain from a bar on, or, where one starts there already, none: it joins the one before. */
export function toggleStrain(tune: Tune, bar: number): Edited {
  const at = whereIs(tune, bar);
  if (!at) return refused("There is no bar there any more.");
  const own = tune.strains[at.strain] as Strain;
  if (at.index === 0) {
    const before = tune.strains[at.strain - 1];
    if (!before) return refused("The first strain has none before it to join.");
    const joined = { ...before, bars: [...before.bars, ...own.bars] };
    return { tune: { ...tune, strains: relabelled(tune.strains.toSpliced(at.strain - 1, 2, joined)) } };
  }
  const { named: _, ...plain } = own;
  return {
    tune: {
      ...tune,
      strains: relabelled(
        tune.strains.flatMap((s, i) =>
          i === at.strain
            ? [
                { ...s, bars: s.bars.slice(0, at.index) },
                { ...plain, label: "A", bars: s.bars.slice(at.index) },
              ]
            : [s],
        ),
      ),
    },
  };
}

/**
 * Bars before, between or after the tune. An intro and a tag take the tune's own last bars; a vamp rests, played until
 * the leader nods.
 */
export function addStrain(tune: Tune, kind: "Intro" | "Vamp" | "Tag", count: number, before = 0): Edited {
  const from = places(tune);
  const full = from.filter((p) => !p.pickup && p.offset === 0).slice(-Math.max(1, Math.min(16, count)));
  if (full.length === 0) return refused("There are no full bars to take it from.");
  const close = kind === "Tag" ? "final" : "double";
  const bars = full.map(
    ({ bar, ticks }, i): Bar => ({
      events: kind === "Vamp" ? [{ ticks, pitches: [] }] : bar.events.map(({ lyrics: _, ...e }) => e),
      chords: kind === "Vamp" ? [] : bar.chords,
      changes: [],
      barline: i === full.length - 1 ? close : "single",
      ...(kind === "Vamp" && i === full.length - 1 ? { repeatEnd: 2, barline: "final" as const } : {}),
      ...(kind === "Vamp" && i === 0 ? { repeatStart: true } : {}),
    }),
  );
  const strain: Strain = { label: kind, named: true, bars };
  const at = { Tag: tune.strains.length, Intro: 0, Vamp: before }[kind];
  return { tune: { ...tune, strains: [...tune.strains.slice(0, at), strain, ...tune.strains.slice(at)] } };
}

/** Takes the strain of a bar out. */
export function removeStrain(tune: Tune, bar: number): Edited {
  const at = whereIs(tune, bar);
  if (!at) return refused("There is no strain there any more.");
  if (tune.strains.length === 1) return refused("This is the only strain.");
  return { tune: { ...tune, strains: relabelled(tune.strains.filter((_, i) => i !== at.strain)) } };
}

/**
 * Another key. Notes keep their sound; with `follow`, those that the old signature bent are bent by the new one
 * instead.
 */
export function setKey(tune: Tune, key: Key, follow: boolean): Edited {
  const from = tune.key;
  const bend = (p: Pitch): Pitch =>
    follow && p.alter === alterIn(from, p.step) ? { ...p, alter: alterIn(key, p.step) } : p;
  const strains = tune.strains.map((s) => ({
    ...s,
    bars: s.bars.map((b) =>
      follow
        ? {
            ...b,
            events: b.events.map((e) => ({
              ...e,
              pitches: e.pitches.map(bend),
              ...(e.grace ? { grace: e.grace.map((g) => ({ ...g, pitches: g.pitches.map(bend) })) } : {}),
            })),
          }
        : b,
    ),
  }));
  return { tune: { ...tune, key, strains } };
}
