import {
  arrangedTonight,
  GROUP,
  groupSheet,
  handFor,
  isGroup,
  performed as performedWork,
  performedBy,
  performedTonight,
  sheetOf,
  withoutPart,
} from "../../../core/ensemble";
import { harmonyStaff } from "../../../core/harmony";
import { countIn } from "../../../core/performance";
import type { Performance, Sheet } from "../../../core/score";
import { barAt, notesAt, stretchOf } from "../../../workers/sound/schedule";
import { Player } from "../../sound/player";
import { type Clapper, type Get, type Other, type Put, rungsOf, type SoundSlice } from "./model";

const SLOWEST = 40;
const FASTEST = 150;
/** Taps that are shown, and judged together. */
const KEPT_TAPS = 24;

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
    if (tick === null && get().playing) {
      set({ playing: false, rung: null });
      void hearClapper();
    }
    if (tick !== null && get().rung) climbTo(round);
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
  /** The performance of the work as it stands, with another line, other chords or another tune where they are given. */
  const performed = ({ line: other = null, plan = null, tune, without, arranged }: Other): Performance => {
    const { work, derived } = get();
    const all = sheetOf(work, derived);
    const plays = new Set(derived.parts.filter((p) => p.line === other?.id).map((p) => p.id));
    const { places } = derived.analysis;
    const carries = new Set(derived.parts.filter((p) => p.role === "melody").map((p) => p.id));
    staves = all.staves.map((s) => {
      if (tune && carries.has(s.id)) return { ...s, bars: tune };
      return other && plays.has(s.id) ? harmonyStaff(other, places, s) : s;
    });
    // Chords sound on through a bar that only repeats them: every planned chord is played, not only those printed.
    const chords = (plan ?? derived.plan).chords.map(({ bar, at, symbol }) => ({ bar, at, symbol }));
    const sheet = { ...all, staves, chords };
    const { percent, page, handShown, pure, evening, shown } = get();
    if (evening && (isGroup(shown) || arranged)) {
      staves = groupSheet(evening, derived, { ...sheet, staves: [] }, shown).staves;
      if (arranged) return arrangedTonight(work, derived, evening, sheet, { percent, ...(without ? { without } : {}) });
      const [who, asked] = without ? [withoutPart(evening, without), GROUP] : [evening, shown];
      return performedTonight(work, derived, who, sheet, asked, percent);
    }
    if (page !== "Hands" || handShown === null) return performedWork(work, derived, sheet, { percent });
    return performedBy(handFor(work, handShown), work, derived, sheet, { percent, pure });
  };
  /** Ticks of the performance that taps are held against: where the tune has notes, or its felt beats. */
  const tapTicks = (): number[] => {
    const { tappedOn, derived } = get();
    if (!performance) return [];
    if (tappedOn === "beats")
      return performance.bars.flatMap(({ at, ticks, beats }) =>
        Array.from({ length: beats }, (_, i) => at + (i * ticks) / beats),
      );
    const melody = derived.parts.find((p) => p.role === "melody")?.id;
    return [...new Set(performance.notes.filter((n) => n.line === melody).map((n) => n.at))].sort((a, b) => a - b);
  };
  const take = (tap: { page: number } | { sound: number }) => {
    const { latency, taps } = get();
    const found = player?.late(tap, tapTicks());
    if (!found || !performance) return;
    const bar = barAt(performance.bars, found.tick)?.index ?? 0;
    set({ taps: [...taps.slice(1 - KEPT_TAPS), { late: found.late - latency, bar }] });
  };
  let deaf: (() => void) | undefined;
  /** Hears the clapper from now on, whoever it is; nobody while nothing plays. */
  const hearClapper = async () => {
    deaf?.();
    deaf = undefined;
    const to: Clapper | null = get().listening;
    if (!to || !get().playing) return;
    const who = to === "microphone" ? to : tapTicks();
    try {
      const end = await started().listen(who, (sound) => take({ sound }));
      if (get().listening === to && get().playing) deaf = end;
      else end();
    } catch (error) {
      set({ listening: null, failure: error instanceof Error ? error.message : String(error) });
    }
  };
  const play = (from: number, to: number | null, loop: boolean, clicks: boolean, other: Other = {}) => {
    performance = performed(other);
    const { start, end } = stretchOf(performance.bars, from, to ?? from);
    const { percent, muted: silent, levels, derived } = get();
    const own = started();
    own.setMuted(silent);
    own.setLevels(levels);
    set({ failure: "", playing: true });
    const whole = from === 0 && (to === null || other.arranged === true);
    const opening = performance.bars[0]?.at ?? 0;
    void own
      .play({
        performance,
        percent,
        loop,
        // The opening chord comes before the first bar, where the whole is played.
        start: whole ? 0 : start,
        end: whole || to === null ? performance.ticks : end,
        clicks: clicks && !(whole && opening > 0) ? countIn(derived.analysis.places, from) : [],
      })
      .then(hearClapper);
  };
  return {
    playing: false,
    sounding: null,
    percent: 70,
    counting: true,
    muted: new Set(muted),
    levels: new Map(),
    failure: "",
    counted: null,
    lights: [],
    ladder: { from: 60, to: 80, step: 10, times: 2 },
    rung: null,
    taps: [],
    tappedOn: "tune",
    listening: null,
    latency: 0,
    tap: (page) => take({ page }),
    setTappedOn: (tappedOn) => {
      set({ tappedOn, taps: [] });
      void hearClapper();
    },
    listen: (listening) => {
      set({ listening, taps: [], failure: "" });
      void hearClapper();
    },
    settleLatency: () => {
      const { taps, latency } = get();
      const mean = taps.reduce((sum, t) => sum + t.late, 0) / Math.max(1, taps.length);
      set({ latency: latency + mean, taps: [] });
    },
    clearTaps: () => set({ taps: [] }),
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
    // Whoever plays along is counted in.
    hear: (from, to, other = {}) => play(from, to, false, get().counting && other.without !== undefined, other),
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
    setLevel: (part, level) => {
      const levels = new Map(get().levels).set(part, level);
      set({ levels });
      player?.setLevels(levels);
    },
    close: () => player?.stop(),
  };
}
