import { deriveHarmony, type HarmonyLine, type HarmonyLock, type HarmonyRequest } from "../../core/harmony";
import type { Place, Tune } from "../../core/score";
import { parsePitch, type Pitch, pitchName } from "../../core/theory";
import type { Options } from "../arguments";
import { type LockWish, placeOf } from "../locks";

import { six, spot } from "./figures";
import { groundOf, planned } from "./chorded";

function noteLocks(wishes: readonly LockWish[], places: readonly Place[], free: HarmonyLine): HarmonyLock[] {
  return wishes.map((wish): HarmonyLock => {
    const { place, at, ticks } = placeOf(wish, places);
    const there = free.notes.find((n) => n.bar === place.index && n.at - place.at === at);
    if (!there)
      throw new RangeError(`--lock names bar ${wish.bar}, beat ${wish.beat}, where no note of the line starts.`);
    const pitch = ["rest", "z"].includes(wish.value) ? null : pitchNamed(wish.value);
    return { bar: place.index, at, ticks: ticks ?? there.ticks, pitch };
  });
}

function pitchNamed(name: string): Pitch {
  try {
    return parsePitch(name);
  } catch {
    throw new RangeError(`--lock names "${name}", which is no note. Write F#4, Bb3 or rest.`);
  }
}

export function harmonised(tune: Tune, options: Options) {
  const ground = groundOf(tune, options);
  const { places, form } = ground.analysis;
  const { school, side, instrument } = options;
  const phraseEnds = new Set(form.phrases.map((p) => p.to));
  const request: HarmonyRequest = { places, plan: planned(ground, []), phraseEnds, school, side, instrument };
  const free = deriveHarmony(request);
  const locks = noteLocks(options.locks, places, free);
  const line = locks.length > 0 ? deriveHarmony({ ...request, locks }) : free;
  return {
    school: line.school,
    side: line.side,
    instrument: line.instrument,
    clash: line.clash,
    total: six(line.cost),
    line: line.notes.map((n) => ({
      ...spot(places[n.bar] as Place, n.at, n.ticks),
      pitch: n.pitch ? pitchName(n.pitch) : null,
      melody: n.melody ? pitchName(n.melody) : null,
      interval: n.interval,
      chord: n.chord,
      locked: n.locked,
      ...(n.broken ? { broken: n.broken } : {}),
      reason: n.reason,
      alternatives: n.alternatives.map((a) => ({ pitch: a.pitch ? pitchName(a.pitch) : null, cost: six(a.cost) })),
    })),
  };
}
