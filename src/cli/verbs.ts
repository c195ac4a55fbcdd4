import { type Analysis, analyse, inventory, strainKeys, ownKeys, shiftWords } from "../core/analysis";
import { type ChordPlan, deriveChords, fileLocks } from "../core/chords";
import { performanceMidi, sheetMusicXml, tuneAbc } from "../core/formats";
import { deriveHarmony } from "../core/harmony";
import { perform } from "../core/performance";
import { beatAt, metreName, type Place, quarters, type Tune, tuneSheet } from "../core/score";
import { parseChord, pitchName, semitoneOf } from "../core/theory";
import type { Options, Verb } from "./arguments";

export type Result = { json: object } | { content: string | Uint8Array };

const six = (n: number) => Math.round(n * 1e6) / 1e6;
const three = (n: number) => Math.round(n * 1e3) / 1e3;

/** What each verb makes of one tune. */
export const VERBS: Record<Verb, (tune: Tune, options: Options) => Result> = {
  analyse: (tune, options) => ({ json: analysed(tune, options) }),
  chords: (tune, options) => ({ json: chorded(tune, options) }),
  harmony: (tune, options) => ({ json: harmonised(tune, options) }),
  convert: (tune, options) => ({ content: converted(tune, options) }),
};

function analysed(tune: Tune, { inferKey, inferType }: Options) {
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
      bars: places.filter((p) => p.strain === s && !p.pickup && p.offset === 0).length,
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

type Worked = { analysis: Analysis; plan: ChordPlan; phraseEnds: Set<number> };

function worked(tune: Tune, { style, infer }: Options): Worked {
  const analysis = analyse(tune);
  const { places, form } = analysis;
  const plan = deriveChords({
    places,
    phrases: form.phrases,
    keys: strainKeys(tune, analysis),
    style,
    locks: infer ? [] : fileLocks(places),
  });
  return { analysis, plan, phraseEnds: new Set(form.phrases.map((p) => p.to)) };
}

function chorded(tune: Tune, options: Options) {
  const {
    analysis: { places },
    plan,
  } = worked(tune, options);
  return {
    style: plan.style,
    chords: plan.chords.map((c) => {
      const place = places[c.bar] as Place;
      return {
        bar: place.number,
        beat: six(beatAt(place, place.at + c.at)),
        at: quarters(place.at + c.at),
        duration: quarters(c.ticks),
        symbol: c.symbol,
        roman: c.roman,
        locked: c.locked,
        reason: c.reason,
        alternatives: distinct(c)
          .slice(0, 5)
          .map((a) => ({
            symbol: a.symbol,
            cost: six(a.cost),
            ...(a.at === undefined || a.ticks === undefined
              ? {}
              : { at: six(quarters((places[c.bar] as Place).at + a.at)), duration: six(quarters(a.ticks)) }),
          })),
      };
    }),
  };
}

/** Runners-up of other roots or thirds, the cheapest form of each: A7 is no other chord than A. */
function distinct({ symbol, alternatives }: ChordPlan["chords"][number]) {
  const kind = (name: string) => {
    const c = parseChord(name);
    return c ? c.root + (c.classes.includes((semitoneOf(c.root) + 3) % 12) ? "m" : "") : name;
  };
  const known = new Set([kind(symbol)]);
  return alternatives.filter((a) => {
    const own = kind(a.symbol);
    return !known.has(own) && known.add(own);
  });
}

function harmonised(tune: Tune, options: Options) {
  const {
    analysis: { places },
    plan,
    phraseEnds,
  } = worked(tune, options);
  const line = deriveHarmony({
    places,
    plan,
    phraseEnds,
    school: options.school,
    side: options.side,
    instrument: options.instrument,
  });
  return {
    school: line.school,
    side: line.side,
    instrument: line.instrument,
    clash: line.clash,
    line: line.notes.map((n) => {
      const place = places[n.bar] as Place;
      return {
        bar: place.number,
        beat: six(beatAt(place, n.at)),
        at: quarters(n.at),
        duration: quarters(n.ticks),
        pitch: n.pitch ? pitchName(n.pitch) : null,
        melody: n.melody ? pitchName(n.melody) : null,
        interval: n.interval,
        chord: n.chord,
        reason: n.reason,
      };
    }),
  };
}

function converted(tune: Tune, { to }: Options): string | Uint8Array {
  if (to === "abc") return tuneAbc(tune);
  const { places } = analyse(tune);
  const sheet = tuneSheet(tune, places);
  return to === "musicxml"
    ? sheetMusicXml(sheet)
    : performanceMidi(perform(tune, sheet, { straight: true, chords: false }));
}
