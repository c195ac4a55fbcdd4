import { type Event, type Ratio, type Shape, type Staff, writtenShape } from "../../score";
import { alterIn, type Key, type Pitch } from "../../theory";
import { lyricsXml } from "./signs";
import { NOTATIONS } from "./tables";
import { el, text } from "./xml";

/** Numbers of the slurs that begin and end at a note. */
export type SlurNumbers = { open: readonly number[]; close: readonly number[] };

/** A note to write: one piece of a bar as it was laid, with all its pitches. */
export type NoteOf = {
  event: Event;
  /** "STAFF.BAR.EVENT", on the first piece of an event. */
  id: string | undefined;
  beams: readonly string[];
  slurs: SlurNumbers | undefined;
};

const ACCIDENTALS: ReadonlyMap<number, string> = new Map([
  [-3, "triple-flat"],
  [-2, "flat-flat"],
  [-1, "flat"],
  [0, "natural"],
  [1, "sharp"],
  [2, "double-sharp"],
  [3, "triple-sharp"],
]);
/** How a length no head can show is written: it never comes from our readers. */
const NO_SHAPE: Shape = { type: "128th", dots: 0, ticks: 0 };
const placeOf = (p: Pitch) => `${p.step}${p.octave}`;

/** Writes the notes of one staff in turn, remembering the key, the accidentals and the ties in force. */
export class NoteWriter {
  private accidentals = new Map<string, number>();
  private tied = new Map<string, number>();
  private octaves: number;

  constructor(
    private staff: Staff,
    private key: Key,
    /** Whether a tablature names its fingers too: in a file it does, drawn it would be crowded. */
    private fingers: boolean,
  ) {
    // A tablature has its tuning as it sounds.
    this.octaves = staff.tab ? 0 : (staff.transposition ?? 0) / 12;
  }

  setKey(key: Key): void {
    this.key = key;
  }

  /** At a bar line signs before notes hold no longer. */
  newBar(): void {
    this.accidentals.clear();
  }

  note(of: NoteOf): string {
    const { event } = of;
    const pitches: (Pitch | null)[] = event.pitches.length ? [...event.pitches] : [null];
    const notes = pitches.map((pitch, n) => this.head(of, pitch, n)).join("");
    const graces = this.graces(event);
    this.tied = new Map(event.tie ? event.pitches.map((p) => [placeOf(p), p.alter]) : []);
    return graces + notes;
  }

  private head({ event, id, beams, slurs }: NoteOf, pitch: Pitch | null, n: number): string {
    const { staff } = this;
    const shape = writtenShape(event) ?? NO_SHAPE;
    const continues = pitch !== null && this.tied.get(placeOf(pitch)) === pitch.alter;
    const goesOn = pitch !== null && event.tie === true;
    const attributes = {
      id: n === 0 ? id : undefined,
      color: staff.color && pitch ? staff.color : undefined,
      "print-object": event.invisible ? "no" : undefined,
    };
    return el(
      "note",
      attributes,
      n > 0 ? el("chord") : undefined,
      pitch ? this.pitch(pitch) : el("rest"),
      text("duration", event.ticks),
      continues ? el("tie", { type: "stop" }) : undefined,
      goesOn ? el("tie", { type: "start" }) : undefined,
      text("voice", 1),
      text("type", shape.type),
      ...Array.from({ length: shape.dots }, () => el("dot")),
      pitch && !staff.tab ? this.accidental(pitch, continues) : undefined,
      shape.ratio ? ratioXml(shape.ratio) : undefined,
      pitch ? noteheadXml(event, staff) : undefined,
      ...(n === 0 ? beams.map((word, level) => text("beam", word, { number: level + 1 })) : []),
      this.notations(event, slurs, n, continues, goesOn),
      ...(n === 0 && staff.lyrics !== false ? lyricsXml(event) : []),
    );
  }

  private graces(event: Event): string {
    const all = event.grace ?? [];
    const beam = (i: number) => {
      if (i === 0) return "begin";
      return i === all.length - 1 ? "end" : "continue";
    };
    const heads = all.flatMap(({ pitches }, i) =>
      pitches.map((p, n) =>
        el(
          "note",
          {},
          el("grace", { slash: event.graceSlash ? "yes" : undefined }),
          n > 0 ? el("chord") : undefined,
          this.pitch(p),
          text("voice", 1),
          text("type", all.length > 1 ? "16th" : "eighth"),
          this.accidental(p, false),
          ...(all.length > 1 && n === 0 ? [1, 2].map((number) => text("beam", beam(i), { number })) : []),
        ),
      ),
    );
    return heads.join("");
  }

  private notations(
    event: Event,
    slurs: SlurNumbers | undefined,
    n: number,
    continues: boolean,
    goesOn: boolean,
  ): string | undefined {
    const first = n === 0;
    const grouped = { ornaments: "", technical: this.technical(event, n), articulations: "" };
    for (const mark of first ? (event.marks ?? []) : []) {
      const shown = NOTATIONS[mark];
      if (shown) grouped[shown.group] += shown.text ? text(shown.element, shown.text) : el(shown.element);
    }
    const inner = [
      continues ? el("tied", { type: "stop" }) : "",
      goesOn ? el("tied", { type: "start" }) : "",
      ...(first ? (slurs?.close ?? []).map((number) => el("slur", { type: "stop", number })) : []),
      ...(first ? (slurs?.open ?? []).map((number) => el("slur", { type: "start", number })) : []),
      first ? tupletXml(event) : "",
      ...Object.entries(grouped).map(([group, marks]) => (marks ? el(group, {}, marks) : "")),
      first && event.marks?.includes("fermata") ? el("fermata") : "",
    ].join("");
    return inner ? el("notations", {}, inner) : undefined;
  }

  /**
   * How a note is played: on tablature its string and fret, on a staff its finger; and the stroke, on the first of
   * several.
   */
  private technical({ technique }: Event, n: number): string {
    const own = technique?.notes?.[n];
    const { direction } = technique?.stroke ?? {};
    const stroke = n === 0 && direction ? el(`${direction}-bow`) : "";
    if (!own) return stroke;
    if (this.staff.tab) {
      // MusicXML knows whole frets only; a half fret such as 6+ goes by the fret it lies behind.
      const fret = own.fret === undefined ? undefined : Number.parseInt(own.fret, 10);
      if (own.string === undefined || fret === undefined) return stroke;
      const finger = this.fingers && own.finger ? text("fingering", own.finger) : "";
      return text("string", own.string) + text("fret", fret) + finger + stroke;
    }
    if (own.finger === undefined) return stroke;
    return (own.finger === 0 ? el("open-string") : text("fingering", own.finger)) + stroke;
  }

  private pitch = (p: Pitch): string =>
    el(
      "pitch",
      {},
      text("step", p.step),
      p.alter ? text("alter", p.alter) : undefined,
      text("octave", p.octave - this.octaves),
    );

  /** The sign to draw, by the rule of the staff: it holds in its octave to the end of the bar. */
  private accidental(p: Pitch, continues: boolean): string | undefined {
    const expected = this.accidentals.get(placeOf(p)) ?? alterIn(this.key, p.step);
    if (continues || expected === p.alter) return undefined;
    this.accidentals.set(placeOf(p), p.alter);
    return text("accidental", ACCIDENTALS.get(p.alter) as string);
  }
}

/** A head that is no plain one: of a strum's slashes, or of a ghost note. */
function noteheadXml({ marks }: Event, { slashes }: Staff): string | undefined {
  if (slashes) return text("notehead", "slash");
  return marks?.includes("ghost") ? text("notehead", "x") : undefined;
}

const ratioXml = ({ actual, normal }: Ratio) =>
  el("time-modification", {}, text("actual-notes", actual), text("normal-notes", normal));

function tupletXml({ tuplet }: Event): string {
  if (tuplet?.place === "first") return el("tuplet", { type: "start", bracket: "yes" });
  return tuplet?.place === "last" ? el("tuplet", { type: "stop" }) : "";
}
