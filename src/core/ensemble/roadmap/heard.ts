import { barTicks, type Performance, type Place, type PlayedBar, type PlayedNote } from "../../score";
import { type ChordNote, closingChord } from "./close";
import { type Laid, laidOut } from "./columns";
import type { Roadmap } from "./model";

/** Loudness of a part that is to come out. */
const LOUDER = 1.3;
/** Tempo of the last two bars of a slow ending, as shares of the tempo. */
const SLOWING = [0.85, 0.7];

/** Who is heard: lines by id, those that accompany, and how a line closes. */
type Heard = {
  accompany: ReadonlySet<string>;
  close: readonly ChordNote[];
};

/**
 * The whole as it is arranged: from the tune once through with everybody (`once`, repeats unfolded), introduction,
 * every time through with who plays then, tag and last chord. The tempo slows where the ending says so.
 */
export function arranged(once: Performance, places: readonly Place[], roadmap: Roadmap, heard: Heard): Performance {
  const { laid, ticks } = laidOut(places, roadmap.stretches);
  const byBar = notesByBar(once);
  const bars: PlayedBar[] = [];
  const notes: PlayedNote[] = [];
  for (const own of laid) {
    const start = once.bars[own.stretch.from]?.at ?? 0;
    const by = own.at - start;
    const end = own.at + own.ticks;
    for (let k = own.stretch.from; k <= own.stretch.to; k++) {
      const bar = once.bars[k] as PlayedBar;
      const last = k === own.stretch.to;
      bars.push({ ...bar, at: bar.at + by, ticks: bar.ticks + (last ? own.adds : 0) });
      for (const note of byBar[k] ?? []) {
        const gain = gainOf(note.line, own, roadmap, heard);
        const at = note.at + by;
        // A pickup that falls into the last bar takes its room from the notes there.
        const length = Math.min(note.ticks, end - at);
        if (gain > 0 && length > 0) notes.push({ ...note, at, ticks: length, velocity: loud(note.velocity * gain) });
      }
    }
  }
  const chord = lastChord(places, roadmap, ticks, bars.at(-1), heard.close);
  return {
    ...once,
    notes: [...notes, ...chord.notes].sort((a, b) => a.at - b.at || a.noteNumber - b.noteNumber),
    bars: [...bars, ...chord.bars],
    metres: moved(once.metres, once, laid),
    keys: moved(once.keys, once, laid),
    tempos: slowed(moved(once.tempos, once, laid), roadmap, bars),
    ticks: ticks + chord.ticks,
  };
}

const loud = (velocity: number): number => Math.max(1, Math.min(127, Math.round(velocity)));

function gainOf(line: string, { stretch }: Laid, { columns }: Roadmap, { accompany }: Heard): number {
  const column = stretch.column === null ? undefined : columns[stretch.column];
  if (!column) return accompany.has(line) ? 1 : 0;
  if (!column.plays.includes(line)) return 0;
  return column.louder.includes(line) ? LOUDER : 1;
}

/** The notes of each played bar, by where they begin. */
function notesByBar({ bars, notes }: Performance): PlayedNote[][] {
  const own: PlayedNote[][] = bars.map(() => []);
  let k = 0;
  for (const note of [...notes].sort((a, b) => a.at - b.at)) {
    while (k + 1 < bars.length && (bars[k + 1] as PlayedBar).at <= note.at) k++;
    own[k]?.push(note);
  }
  return own;
}

/** Seconds of the whole, at so many seconds a tick. */
export function secondsOf(places: readonly Place[], roadmap: Roadmap, tick: number): number {
  const { laid, ticks } = laidOut(places, roadmap.stretches);
  const last = places.at(-1);
  if (!last || laid.length === 0) return 0;
  const bar = barTicks(last.metre) || last.ticks;
  if (roadmap.ending === "last note") return ticks * tick;
  if (roadmap.ending === "last note and a chord") return (ticks + bar) * tick;
  const slower = SLOWING.reduce((sum, share) => sum + bar / share - bar, 0);
  return (ticks + slower + bar / (SLOWING.at(-1) ?? 1)) * tick;
}

/** Facts that hold from a tick on, as they hold in the stretches; each where it is another than before. */
function moved<T extends { at: number }>(facts: readonly T[], once: Performance, laid: readonly Laid[]): T[] {
  const all = laid.flatMap(({ stretch, at }) => {
    const start = once.bars[stretch.from]?.at ?? 0;
    const last = once.bars[stretch.to];
    const end = (last?.at ?? 0) + (last?.ticks ?? 0);
    const held = facts.findLast((f) => f.at <= start) ?? facts[0];
    const inside = facts.filter((f) => f.at > start && f.at < end).map((f) => ({ ...f, at: f.at - start + at }));
    return held ? [{ ...held, at }, ...inside] : inside;
  });
  const plain = ({ at: _, ...fact }: T) => JSON.stringify(fact);
  return all.filter((f, i) => i === 0 || plain(f) !== plain(all[i - 1] as T));
}

/** Tempos with the last two bars slower, where the ending is slow. */
function slowed(tempos: Performance["tempos"], { ending }: Roadmap, bars: readonly PlayedBar[]): Performance["tempos"] {
  if (ending !== "slow, open chord") return tempos;
  const last = bars.slice(-SLOWING.length);
  const from = last[0]?.at ?? 0;
  const held = tempos.findLast((t) => t.at <= from) ?? tempos[0];
  if (!held) return tempos;
  const slower = last.map((bar, i) => ({ ...held, at: bar.at, bpm: held.bpm * (SLOWING[i] ?? 1) }));
  return [...tempos.filter((t) => t.at < from), ...slower];
}

/** The last chord, on the beat after the last bar: short for dancers, a bar long where it is open. */
function lastChord(
  places: readonly Place[],
  { ending, columns }: Roadmap,
  at: number,
  last: PlayedBar | undefined,
  close: readonly ChordNote[],
) {
  const place = last && places[last.index];
  const playing = new Set(columns.at(-1)?.plays);
  if (ending === "last note" || !place || !last) return { notes: [], bars: [], ticks: 0 };
  const own = closingChord(
    place,
    ending === "slow, open chord",
    close.filter((c) => playing.has(c.line)),
  );
  const { ticks, beats } = own;
  return { notes: own.notes.map((n) => ({ ...n, at })), bars: [{ index: last.index, at, ticks, beats }], ticks };
}
