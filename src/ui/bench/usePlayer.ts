"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { type Derived, sheetOf, type Work } from "../../core/ensemble";
import { type HarmonyLine, harmonyStaff } from "../../core/harmony";
import { countIn, perform } from "../../core/performance";
import type { Performance } from "../../core/score";
import { barAt, stretchOf } from "../../workers/sound/schedule";
import { Player } from "../sound/player";

export type Loop = { from: number; to: number } | null;

/** Sound for the bench: plays the whole group from a bar, or a loop, with each line on or off. */
export function usePlayer(work: Work, derived: Derived | null, bar: number, loop: Loop) {
  const [tick, setTick] = useState<number | null>(null);
  const [playing, setPlaying] = useState(false);
  const [percent, setPercent] = useState(70);
  const [counting, setCounting] = useState(true);
  const [muted, setMuted] = useState<ReadonlySet<string>>(new Set(["first"]));
  const [failure, setFailure] = useState("");
  const player = useRef<Player | null>(null);

  const now = useRef<Performance | null>(null);

  /** The performance of the work as it stands, made when it is asked for. */
  const prepare = useCallback(
    (other: HarmonyLine | null = null) => {
      if (!derived) return null;
      // Chords sound on through a bar that only repeats them: every planned chord is played, not only those printed.
      const all = sheetOf(work, derived);
      const staves = other
        ? all.staves.map((s) => (s.id === "moving" ? harmonyStaff(other, derived.analysis.places, s) : s))
        : all.staves;
      const sheet = { ...all, staves, chords: derived.plan.chords.map(({ bar, at, symbol }) => ({ bar, at, symbol })) };
      now.current = perform(work.tune, sheet, { backing: work.backing });
      return now.current;
    },
    [work, derived],
  );

  useEffect(() => {
    const made = new Player((at) => {
      setTick(at);
      if (at === null) setPlaying(false);
    }, setFailure);
    player.current = made;
    return () => made.stop();
  }, []);
  useEffect(() => player.current?.setMuted(muted), [muted]);
  useEffect(() => player.current?.setPercent(percent), [percent]);

  const play = useCallback(
    (from: number, to: number | null, looped: boolean, clicks = counting, other: HarmonyLine | null = null) => {
      const performance = prepare(other);
      if (!performance || !derived) return;
      const stretch = stretchOf(performance.bars, from, to ?? from);
      setFailure("");
      setPlaying(true);
      void player.current?.play({
        performance,
        percent,
        loop: looped,
        start: stretch.start,
        end: to === null ? performance.ticks : stretch.end,
        clicks: clicks ? countIn(derived.analysis.places, from) : [],
      });
    },
    [prepare, derived, percent, counting],
  );

  const toggle = useCallback(() => {
    if (playing) player.current?.stop();
    else if (loop) play(loop.from, loop.to, true);
    else play(bar, null, false);
  }, [playing, loop, play, bar]);

  const sounding = now.current && tick !== null ? (barAt(now.current.bars, tick)?.index ?? null) : null;
  const mute = useCallback(
    (line: string) =>
      setMuted((old) => {
        const next = new Set(old);
        if (!next.delete(line)) next.add(line);
        return next;
      }),
    [],
  );
  return { playing, sounding, percent, setPercent, counting, setCounting, muted, mute, failure, toggle, play };
}
export type PlayerState = ReturnType<typeof usePlayer>;
