import type { ChordPlan } from "../chords";
import { type HarmonyLine, harmonyStaff } from "../harmony";
import type { Instrument } from "../instruments";
import { melodyStaff, type Place, type Sheet, type SheetChord, type Staff, tempoOf, type Tune } from "../score";
import { heldNotes } from "./heldPart";
import type { Part, Role } from "./model";

/** What a part is asked for: who plays it on what, and, for a harmony, the line. */
export type PartRequest = {
  id: string;
  name: string;
  role: Role;
  instrument: Instrument;
  line: { id: string; line: HarmonyLine } | null;
};

/** The tune and what the stages before have made of it. */
type TuneAndChords = { places: readonly Place[]; plan: ChordPlan };

type Draft = { bars: Staff["bars"]; lyrics?: true; loudness?: number } & Pick<Part, "coaching" | "leftOut">;

const melody = ({ places }: TuneAndChords): Draft => ({
  bars: melodyStaff(places).bars,
  lyrics: true,
  coaching:
    "You carry the tune: everyone listens to you for the pulse. Start quietly enough to hear the long notes under you.",
  leftOut: [],
});

function harmony({ places }: TuneAndChords, { line, id, name }: PartRequest): Draft {
  const staff = { id, name, clef: "treble", program: 0 } as const;
  const bars = line
    ? harmonyStaff(line.line, places, staff).bars
    : places.map((p) => [{ ticks: p.ticks, pitches: [] }]);
  const where = line?.line.side === "above" ? "above" : "below";
  return {
    bars,
    loudness: 0.78,
    coaching:
      `You move with the tune, ${where} it. ` +
      "Learn where the line does not run in thirds; those are the places to listen for.",
    leftOut: ["Ornaments and grace notes, which stay with the tune so that it sounds clear."],
  };
}

const oneNote = ({ places, plan }: TuneAndChords, { instrument }: PartRequest): Draft => ({
  bars: heldNotes(places, plan, instrument),
  loudness: 0.55,
  coaching:
    "One long note on each chord, starting exactly with it. Leave the finger down where the next note is the same.",
  leftOut: ["The rhythm and the runs of the tune: one note to each chord keeps both hands calm."],
});

/** How the part of each role is written. */
const WRITERS: Record<Role, (material: TuneAndChords, request: PartRequest) => Draft> = {
  melody,
  "low harmony": harmony,
  "high harmony": harmony,
  "one-note harmony": oneNote,
};

/** The part of one player. */
export function writePart(material: TuneAndChords, request: PartRequest): Part {
  const { id, name, role, instrument, line } = request;
  const { bars, lyrics, loudness, coaching, leftOut } = WRITERS[role](material, request);
  const { clef, program, transposition } = instrument;
  const staff: Staff = {
    id,
    name,
    bars,
    clef,
    program,
    ...(transposition ? { transposition } : {}),
    ...(lyrics ? { lyrics } : {}),
    ...(loudness === undefined ? {} : { loudness }),
  };
  return { id, name, role, instrument: instrument.name, line: line?.id ?? null, staff, coaching, leftOut };
}

/**
 * The chords of a plan as a sheet prints them: where they change, and again wherever eyes begin anew: at each row of
 * phrases (their first bars), strain, repeat and ending.
 */
export function printedChords(plan: ChordPlan, places: readonly Place[], rows: readonly number[]): SheetChord[] {
  const anew = (bar: number) => {
    const [own, before] = [places[bar], places[bar - 1]];
    const turns = own?.bar.repeatStart === true || own?.bar.ending !== undefined;
    const row = rows.includes(before?.pickup ? bar - 1 : bar);
    return row || turns || own?.strain !== before?.strain;
  };
  return plan.chords
    .filter((c, i) => plan.chords[i - 1]?.symbol !== c.symbol || (c.at === 0 && anew(c.bar)))
    .map(({ bar, at, symbol }) => ({ bar, at, symbol }));
}

/** One part, or several, as a sheet to engrave, print or save. */
export function partSheet(
  tune: Tune,
  places: readonly Place[],
  parts: readonly Part[],
  chords: readonly SheetChord[],
): Sheet {
  const [first] = parts;
  return {
    title: tune.title,
    subtitle: parts.length === 1 && first ? `${first.name}, ${first.instrument}` : "All parts",
    composer: tune.composer,
    places,
    staves: parts.map((p) => p.staff),
    chords,
    tempo: tempoOf(tune),
  };
}
