import { type DerivedLine, sheetOf } from "../../../core/ensemble";
import { feel, grooveNamed } from "../../../core/feel";
import { harmonyStaff } from "../../../core/harmony";
import { countIn, perform } from "../../../core/performance";
import type { Performance } from "../../../core/score";
import { barAt, stretchOf } from "../../../workers/sound/schedule";
import { Player } from "../../sound/player";
import type { Get, Put, SoundSlice } from "./model";

const SLOWEST = 40;
const FASTEST = 150;

export function soundSlice(muted: Iterable<string>, set: Put, get: Get): SoundSlice {
  let performance: Performance | null = null;
  let player: Player | null = null;

  /** The player, made when first asked for. It tells the store only when another bar sounds. */
  const started = (): Player => {
    player ??= new Player(
      (tick) => {
        const bar = performance && tick !== null ? (barAt(performance.bars, tick)?.index ?? null) : null;
        if (bar !== get().sounding) set({ sounding: bar });
        if (tick === null && get().playing) set({ playing: false });
      },
      (failure) => set({ failure }),
    );
    return player;
  };
  /** The performance of the work as it stands, another line in the place of its own where one is given. */
  const performed = (other: DerivedLine | null): Performance => {
    const { work, derived } = get();
    const all = sheetOf(work, derived);
    const plays = new Set(derived.parts.filter((p) => p.line === other?.id).map((p) => p.id));
    const { places } = derived.analysis;
    const staves = all.staves.map((s) => (other && plays.has(s.id) ? harmonyStaff(other, places, s) : s));
    // Chords sound on through a bar that only repeats them: every planned chord is played, not only those printed.
    const chords = derived.plan.chords.map(({ bar, at, symbol }) => ({ bar, at, symbol }));
    const performance = perform(work.tune, { ...all, staves, chords }, { backing: work.backing });
    return feel(performance, grooveNamed(work.feel.groove));
  };
  const play = (from: number, to: number | null, loop: boolean, clicks: boolean, other: DerivedLine | null = null) => {
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
    toggle: () => {
      const { playing, loop, bar, counting } = get();
      if (playing) player?.stop();
      else if (loop) play(loop.from, loop.to, true, counting);
      else play(bar, null, false, counting);
    },
    hear: (from, to, other = null) => play(from, to, false, false, other),
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
