import { type ChordLock, freed, loosened, settled } from "../chords";
import type { HarmonyLock, Side } from "../harmony";
import { allBars, type Bar, lengthOf, type Tune } from "../score";
import { type Move, moveChord, movePitch, transpose } from "../spelling";
import { harmonyRole, type Line, newLine, newPlayer, type StrumChoice, type Work } from "./work";

// What a teacher decides, as small functions from one work to the next.

/** The work with chords settled in their places; what was settled there before gives way. */
export const lockChords = (work: Work, locks: readonly ChordLock[]): Work => ({
  ...work,
  locks: settled(work.locks, locks),
});

type ChordPlaceOf = Pick<ChordLock, "bar" | "at" | "ticks">;
/** Unlocks places; their chords stay as they were chosen until they are planned anew. */
export const unlockChords = (work: Work, places: readonly ChordPlaceOf[]): Work => ({
  ...work,
  locks: places.reduce<ChordLock[]>(loosened, work.locks),
});

/** Frees places, so that their chords are planned anew. */
export const freeChords = (work: Work, places: readonly ChordPlaceOf[]): Work => ({
  ...work,
  locks: places.reduce<ChordLock[]>(freed, work.locks),
});

/** The work with its chords in a style; what was only kept is planned anew. */
export const changeStyle = (work: Work, style: Work["style"]): Work => ({
  ...work,
  style,
  locks: work.locks.filter((l) => !l.kept),
});

/** The work with one doubt of its coming in settled, or all of them. */
export const settleDoubt = ({ doubts = [], ...work }: Work, which?: string): Work => {
  const left = which === undefined ? [] : doubts.filter((d) => d !== which);
  return left.length > 0 ? { ...work, doubts: left } : work;
};

/** The line of an id; undefined where the work has none. */
export const lineOf = (work: Work, id: string | null): Line | undefined => work.lines.find((l) => l.id === id);

const withLine = (work: Work, id: string, change: (line: Line) => Line): Work => ({
  ...work,
  lines: work.lines.map((line) => (line.id === id ? change(line) : line)),
});

/** A line by another school, side or instrument, planned anew; its players change their role with its side. */
export function changeLine(
  work: Work,
  id: string,
  change: Partial<Pick<Line, "school" | "side" | "instrument">>,
): Work {
  const locks = (line: Line) => line.locks.filter((l) => !l.kept);
  const changed = withLine(work, id, (line) => ({ ...line, ...change, locks: locks(line) }));
  const role = change.side && harmonyRole(change.side);
  return {
    ...changed,
    players: changed.players.map((p) => (p.line === id && role ? { ...p, role } : p)),
  };
}

/** One more harmony line, with a player on it. */
export function addLine(work: Work, school: string, side: Side): Work {
  const free = (stem: string, taken: readonly { id: string }[]) => {
    for (let n = 2; ; n++) if (!taken.some(({ id }) => id === `${stem}-${n}`)) return `${stem}-${n}`;
  };
  const line = newLine(free("line", work.lines), school, side);
  const own = work.players.some((p) => p.id === "second") ? free("harmony", work.players) : "second";
  const player = newPlayer(own, harmonyRole(side), line);
  const last = work.players.findLastIndex((p) => p.line !== null);
  return { ...work, lines: [...work.lines, line], players: work.players.toSpliced(last + 1, 0, player) };
}

/** The work without a line and its players; the last line stays. */
export const removeLine = (work: Work, id: string): Work =>
  work.lines.length < 2
    ? work
    : {
        ...work,
        lines: work.lines.filter((l) => l.id !== id),
        players: work.players.filter((p) => p.line !== id),
      };

/** A harmony note settled in a line, or freed where no pitch is given (null settles a rest). */
export const lockNote = (
  work: Work,
  line: string,
  place: Omit<HarmonyLock, "pitch">,
  pitch?: HarmonyLock["pitch"],
): Work =>
  withLine(work, line, (own) => ({
    ...own,
    locks: [
      ...own.locks.filter((l) => l.bar !== place.bar || l.at !== place.at),
      ...(pitch === undefined ? [] : [{ ...place, pitch }]),
    ],
  }));

/** Unlocks a harmony note; it stays as it was chosen until the line is planned anew. */
export const unlockNote = (work: Work, line: string, place: Pick<HarmonyLock, "bar" | "at">): Work =>
  withLine(work, line, (own) => ({
    ...own,
    locks: own.locks.map((l) => (l.bar === place.bar && l.at === place.at ? { ...l, kept: true } : l)),
  }));

/** Some bars of a line by another school; the line's own school takes them back. */
export const schoolBars = (work: Work, line: string, from: number, to: number, school: string): Work =>
  withLine(work, line, (own) => {
    const others = own.bars.filter((b) => b.bar < from || b.bar > to);
    const these = Array.from({ length: to - from + 1 }, (_, i) => ({ bar: from + i, school }));
    const locks = own.locks.filter((l) => !l.kept || l.bar < from || l.bar > to);
    return { ...own, locks, bars: school === own.school ? others : [...others, ...these] };
  });

/**
 * The work with its tune edited. Locks go with the bars they stand in, wherever those come to lie; a lock whose bar was
 * changed stays by
 * its order while the number of bars is the same, and is let go otherwise.
 */
export function withTune(work: Work, tune: Tune): Work {
  const [before, after] = [allBars(work.tune), allBars(tune)];
  const order = new Map(after.map((bar, i) => [bar, i]));
  const newBar = (bar: number) => order.get(before[bar] as Bar) ?? (before.length === after.length ? bar : undefined);
  const moved = <T extends { bar: number; at?: number }>(list: readonly T[]): T[] =>
    list.flatMap((own) => {
      const bar = newBar(own.bar);
      const fits = bar !== undefined && (own.at ?? 0) < lengthOf((after[bar] as Bar).events);
      return fits ? [{ ...own, bar }] : [];
    });
  const strokes = <T extends { locks: StrumChoice["locks"] }>(plan: T | null): T | null =>
    plan && { ...plan, locks: moved(plan.locks) };
  const { bowing, plectrum, strum } = work.feel;
  const { evening } = work;
  const tonight = evening && {
    ...evening,
    ...(evening.edits ? { edits: moved(evening.edits) } : {}),
    ...(evening.changes ? { changes: moved(evening.changes) } : {}),
  };
  return {
    ...work,
    tune,
    ...(tonight ? { evening: tonight } : {}),
    feel: { ...work.feel, bowing: strokes(bowing), plectrum: strokes(plectrum), strum: strokes(strum) },
    locks: moved(work.locks),
    ...(work.hands ? { hands: work.hands.map((hand) => ({ ...hand, locks: moved(hand.locks) })) } : {}),
    lines: work.lines.map((line) => ({ ...line, locks: moved(line.locks), bars: moved(line.bars) })),
    players: work.players.map((player) => ({ ...player, locks: moved(player.locks) })),
  };
}

/** The whole work in another key: the tune, and every chord and note that was settled, moved alike. */
export function transposed(work: Work, move: Move): Work {
  const moved = <T extends HarmonyLock>(locks: readonly T[]) =>
    locks.map((lock) => ({ ...lock, pitch: lock.pitch && movePitch(lock.pitch, move) }));
  return {
    ...work,
    tune: transpose(work.tune, move),
    locks: work.locks.map((lock) => ({ ...lock, symbol: moveChord(lock.symbol, move) })),
    lines: work.lines.map((line) => ({ ...line, locks: moved(line.locks) })),
    players: work.players.map((player) => ({ ...player, locks: moved(player.locks) })),
  };
}
