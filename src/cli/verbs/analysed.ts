import { analyse, inventory, ownKeys, shiftWords, strainKeys } from "../../core/analysis";
import { isCounted, metreName, quarters, type Tune } from "../../core/score";
import { pitchName } from "../../core/theory";
import type { Options } from "../arguments";

import { three } from "./figures";

export function analysed(tune: Tune, { inferKey, inferType }: Options) {
  const analysis = analyse(tune, { inferKey, inferType });
  const { places, key, dance, form, scale } = analysis;
  const own = ownKeys(tune, places);
  const keys = strainKeys(tune, analysis, inferKey);
  const number = (index: number) => places[index]?.number ?? 0;
  const found = inventory(places);
  return {
    metre: metreName(tune.metre),
    pickup: places[0]?.pickup ? quarters(places[0].ticks) : 0,
    danceType: {
      name: dance.name,
      confidence: three(dance.confidence),
      evidence: dance.evidence,
      alternatives: dance.alternatives.map((a) => ({ name: a.name, confidence: three(a.confidence) })),
    },
    key: {
      tonic: key.key.tonic,
      mode: key.key.mode,
      confidence: three(key.confidence),
      declared: { tonic: key.declared.tonic, mode: key.declared.mode },
      evidence: key.evidence,
      ...(key.disagreement ? { disagreement: key.disagreement } : {}),
    },
    keys: key.ranked.map((k) => ({
      tonic: k.tonic,
      mode: k.mode,
      confidence: three(k.confidence),
      evidence: k.evidence,
    })),
    form: form.sequence,
    bars: form.bars,
    learn: form.learn,
    scale: { notes: scale.notes, missing: scale.missing, confidence: three(scale.confidence) },
    strains: tune.strains.map((strain, s) => ({
      label: strain.label,
      bars: places.filter((p) => p.strain === s && isCounted(p)).length,
      key: { tonic: keys[s]?.tonic, mode: keys[s]?.mode },
      ...(own[s] && (own[s].tonic !== keys[s]?.tonic || own[s].mode !== keys[s]?.mode)
        ? { suggested: { tonic: own[s].tonic, mode: own[s].mode, confidence: three(own[s].confidence) } }
        : {}),
      phrases: form.phrases
        .filter((p) => p.strain === s)
        .map((p) => ({
          from: number(places.slice(p.from, p.to + 1).find((b) => !b.pickup)?.index ?? p.from),
          to: number(p.to),
          relation: p.relation,
          to_phrase: p.model === undefined ? null : p.model + 1,
          from_bar: p.parts === undefined ? null : number(p.parts),
          ...(p.shift === undefined ? {} : { interval: shiftWords(p.shift) }),
        })),
    })),
    inventory: {
      pitches: found.pitches.map((p) => ({ pitch: pitchName(p.pitch), duration: quarters(p.ticks), count: p.count })),
      lowest: found.lowest ? pitchName(found.lowest) : null,
      highest: found.highest ? pitchName(found.highest) : null,
      notes: found.notes,
      held: found.held,
      leaps: found.leaps,
      outside: found.outside,
      rhythm: found.cells.slice(0, 8),
    },
  };
}
