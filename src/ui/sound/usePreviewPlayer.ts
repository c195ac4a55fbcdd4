"use client";
import { useEffect, useRef, useState } from "react";
import { perform } from "../../core/performance";
import { places, tuneSheet, type Tune } from "../../core/score";
import { Player } from "./player";

/** Plays tunes outside the bench, one at a time: the melody alone, as written. */
export function usePreviewPlayer() {
  const [playing, setPlaying] = useState<string | null>(null);
  const [failure, setFailure] = useState("");
  const player = useRef<Player | null>(null);
  useEffect(() => () => player.current?.stop(), []);
  const stop = () => {
    player.current?.stop();
    setPlaying(null);
  };
  const play = (name: string, tune: Tune) => {
    player.current ??= new Player({
      place: (tick) => tick === null && setPlaying(null),
      count: () => {},
      fail: setFailure,
    });
    const performance = perform(tune, tuneSheet(tune, places(tune)), { chords: false });
    setFailure("");
    void player.current.play({ performance, start: 0, end: performance.ticks, loop: false, clicks: [], percent: 100 });
    // Starting one ends the one before, which says so.
    setPlaying(name);
  };
  return { playing, failure, fail: setFailure, play, stop };
}
