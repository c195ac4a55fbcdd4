import { performed as performedWork, sheetOf } from "../../../core/ensemble";
import { harmonyStaff } from "../../../core/harmony";
import { countIn } from "../../../core/performance";
import type { Performance, Sheet } from "../../../core/score";
import { barAt, notesAt, stretchOf } from "../../../workers/sound/schedule";
import { Player } from "../../sound/player";
import { type Get, type Other, type Put, rungsOf, type SoundSlice } from "./model";

const SLOWEST = 40;
const FASTEST = 150;

export function soundSlice(muted: Iterable<string>, set: Put, get: Get): SoundSlice {
  let performance: Performance | null = null;
  let player: Player | null = null;
  let staves: Sheet["staves"] = [];

  const place = (tick: number | null, round: number) => {
    const here = performance && tick !== null ? barAt(performance.bars, tick) : undefined;
    const lights = here && tick !== null ? notesAt(staves, here.index, tick - here.at) : [];
    if (lights.join() !== get().lights.join()) set({ lights });
    const bar = here?.index ?? null;
    if (bar !== get().sounding || get().counted !== null) set({ sounding: bar, counted: null });
    if (tick === null && get().playing) set({ playing: false, rung: null });
    else if (get().rung) climbTo(round);
  };
  /** The rung of a round of the loop; the last one is kept. */
  const climbTo = (round: number) => {
    const { ladder, rung } = get();
    const rungs = rungsOf(ladder);
    const order = Math.min(rungs.length - 1, Math.floor(round / ladder.times));
    const percent = rungs[order] as number;
    const time = Math.min(ladder.times, round - order * ladder.times + 1);
    if (rung?.percent === percent && rung.time === time) return;
    set({ rung: { percent, time, times: ladder.times } });
    if (percent !== get().percent) get().setPercent(percent);
  };
  /** The player, made when first asked for. It tells the store only what is new. */
  const started = (): Player => {
    player ??= new Player({
      place,
      count: (counted) => counted !== get().counted && set({ counted }),
      fail: (failure) => set({ failure }),
    });
    return player;
  };
  /** The performance of the work as it stands, with another line or other chords where they are given. */
  const performed = ({ line: other = null, plan = null }: Other): Performance => {
    const { work, derived } = get();
    const all = sheetOf(work, derived);
    const plays = new Set(derived.parts.filter((p) => p.line === other?.id).map((p) => p.id));
    const { places } = derived.analysis;
    staves = all.staves.map((s) => (other && plays.has(s.id) ? harmonyStaff(other, places, s) : s));
    // Chords sound on through a bar that only repeats them: every planned chord is played, not only those printed.
    const chords = (plan ?? derived.plan).chords.map(({ bar, at, symbol }) => ({ bar, at, symbol }));
    return performedWork(work, derived, { ...all, staves, chords }, { percent: get().percent });
  };
  const play = (from: number, to: number | null, loop: boolean, clicks: boolean, other: Other = {}) => {
    performance = performed(other);
    const { start, end } = stretchOf(performance.bars, from, to ?? from);
    const { percent, muted: silent, derived } = get();
    const own = started();
    own.setMuted(silent);
    set({ failure: "", playing: true });
    void own.play({
      performance,
      percent,
      loop,
      start,
      end: to === null ? performance.ticks : end,
      clicks: clicks ? countIn(derived.analysis.places, from) : [],
    });
  };
  return {
    playing: false,
    sounding: null,
    percent: 70,
    counting: true,
    muted: new Set(muted),
    failure: "",
    counted: null,
    lights: [],
    ladder: { from: 60, to: 80, step: 10, times: 2 },
    rung: null,
    setLadder: (ladder) => set({ ladder }),
    climb: () => {
      const { loop, counting, ladder } = get();
      get().setPercent(ladder.from);
      set({ rung: { percent: ladder.from, time: 1, times: ladder.times } });
      play(loop?.from ?? 0, loop?.to ?? null, true, counting);
    },
    toggle: () => {
      const { playing, loop, bar, counting } = get();
      set({ rung: null });
      if (playing) player?.stop();
      else if (loop) play(loop.from, loop.to, true, counting);
      else play(bar, null, false, counting);
    },
    hear: (from, to, other = {}) => play(from, to, false, false, other),
    setPercent: (wanted) => {
      const percent = Math.min(FASTEST, Math.max(SLOWEST, wanted));
      set({ percent });
      player?.setPercent(percent);
    },
    setCounting: (counting) => set({ counting }),
    mute: (part) => {
      const next = new Set(get().muted);
      if (!next.delete(part)) next.add(part);
      get().setMuted(next);
    },
    setMuted: (parts) => {
      const next = new Set(parts);
      set({ muted: next });
      player?.setMuted(next);
    },
    close: () => player?.stop(),
  };
}
