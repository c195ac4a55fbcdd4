import { beatTicks, type Event, type Place, places, QUARTER, type Tune } from "../score";
import { alterIn, diatonic, type Key, midi, naturalAt, type Pitch } from "../theory";
import { withBars } from "./snaps";

/** The note a step over a pitch, in the key. */
function upperNeighbour(pitch: Pitch, key: Key): Pitch {
  const natural = naturalAt(diatonic(pitch) + 1);
  return { ...natural, alter: alterIn(key, natural.step) };
}

/** How a flick is written: an eighth with a stroke, never counted in the bar. */
const WRITTEN = QUARTER / 2;

/**
 * A tune with flicks: a quick upper neighbour before notes on the beat that repeat the note before or come a step down
 * to it, an eighth or longer; never on two beats running. Those that are there already stay.
 */
export function withFlicks(tune: Tune): Tune {
  let before: Pitch | undefined;
  let last = Number.NEGATIVE_INFINITY;
  const made = places(tune).map((place): [number, Place["bar"]] => {
    const beat = beatTicks(place.metre);
    let at = 0;
    const events = place.bar.events.map((event): Event => {
      const [own, came] = [event.pitches.at(-1), before];
      const moment = place.at + at;
      const onBeat = (place.offset + at) % beat === 0;
      at += event.ticks;
      before = own ?? before;
      const falls = own && came ? [0, -1].includes(diatonic(own) - diatonic(came)) && midi(own) <= midi(came) : false;
      const long = event.ticks >= WRITTEN && !event.tuplet && event.pitches.length === 1;
      if (!own || !onBeat || !falls || !long || event.grace || moment - last < 2 * beat) return event;
      last = moment;
      return { ...event, grace: [{ pitches: [upperNeighbour(own, place.key)], ticks: WRITTEN }], graceSlash: true };
    });
    return [place.index, { ...place.bar, events }];
  });
  return withBars(tune, new Map(made));
}

/** A tune without single quick upper neighbours before its notes; other graces stay. */
export function withoutFlicks(tune: Tune): Tune {
  const made = places(tune).map((place): [number, Place["bar"]] => {
    const events = place.bar.events.map((event): Event => {
      const own = event.pitches.at(-1);
      const grace = event.grace?.length === 1 ? event.grace[0]?.pitches[0] : undefined;
      const flick = own !== undefined && grace !== undefined && diatonic(grace) - diatonic(own) === 1;
      if (!flick) return event;
      const { grace: _, graceSlash: _s, ...plain } = event;
      return plain;
    });
    return [place.index, { ...place.bar, events }];
  });
  return withBars(tune, new Map(made));
}
