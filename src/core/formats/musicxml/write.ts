import { type Event, laid, type Place, QUARTER, rest, type Sheet, type Staff } from "../../score";
import type { Key } from "../../theory";
import { beams } from "./beams";
import { NoteWriter } from "./notes";
import { clefXml, directionsXml, harmonyXml, keyXml, tempoXml, timeXml } from "./signs";
import { pairSlurs } from "./slurs";
import { el, text } from "./xml";

export type MusicXmlOptions = {
  /** Ids on notes and bars ("STAFF.BAR.EVENT"), so that a drawing can be matched with the score. */
  ids?: boolean;
  /**
   * A row of a longer page: one system without names, tempo or metre, but for the metre where the tune starts or
   * changes it.
   */
  row?: boolean;
  /** Bars (by place in the sheet) that start a new system; a single part then goes without its name. */
  systems?: ReadonlySet<number>;
};

const DOCTYPE =
  '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" ' +
  '"http://www.musicxml.org/dtds/partwise.dtd">';

/** A sheet as a MusicXML 4.0 partwise document: one part a staff. */
export function sheetMusicXml(sheet: Sheet, options: MusicXmlOptions = {}): string {
  const parts = sheet.staves.map((staff, i) => ({ staff, id: `P${i + 1}` }));
  const unnamed = options.row || (options.systems && sheet.staves.length === 1);
  const list = parts.map(({ staff, id }, i) =>
    el(
      "score-part",
      { id },
      text("part-name", staff.name, { "print-object": unnamed ? "no" : undefined }),
      el("score-instrument", { id: `${id}-I1` }, text("instrument-name", staff.name)),
      el(
        "midi-instrument",
        { id: `${id}-I1` },
        text("midi-channel", channel(i)),
        text("midi-program", staff.program + 1),
      ),
    ),
  );
  const identification = el(
    "identification",
    {},
    sheet.composer ? text("creator", sheet.composer, { type: "composer" }) : undefined,
    el("encoding", {}, text("software", "Symphonos")),
  );
  const score = el(
    "score-partwise",
    { version: "4.0" },
    el("work", {}, text("work-title", sheet.title || "Untitled")),
    sheet.subtitle ? text("movement-title", sheet.subtitle) : undefined,
    identification,
    el("part-list", {}, ...list),
    ...parts.map(({ staff, id }, i) =>
      el("part", { id }, ...new PartWriter(sheet, staff, i === 0, options).measures()),
    ),
  );
  return ['<?xml version="1.0" encoding="UTF-8"?>', DOCTYPE, score, ""].join("\n");
}

/** MIDI channels 1 to 16 without the drums' tenth, over again for more than fifteen parts. */
const channel = (part: number) => {
  const own = (part % 15) + 1;
  return own >= 10 ? own + 1 : own;
};

const BAR_STYLES: ReadonlyMap<string, string> = new Map([
  ["double", "light-light"],
  ["final", "light-heavy"],
  ["heavy", "heavy-light"],
  ["dotted", "dotted"],
]);

/** Writes one part measure by measure. The first part of a sheet leads: it carries chords, tempo and endings. */
class PartWriter {
  private slurs: ReturnType<typeof pairSlurs>;
  private bars: readonly ReturnType<typeof laid>[];
  private notes: NoteWriter;
  private ending: string | undefined;

  constructor(
    private sheet: Sheet,
    private staff: Staff,
    private leads: boolean,
    private options: MusicXmlOptions,
  ) {
    this.bars = sheet.places.map((place, i) => laid(staff.bars[i] ?? [rest(place.ticks)], place.metre, place.offset));
    this.slurs = pairSlurs(this.bars.flat().map((l) => l.event));
    const drawn = options.row === true || options.systems !== undefined;
    this.notes = new NoteWriter(staff, sheet.places[0]?.key ?? { tonic: "C", mode: "major" }, !drawn);
  }

  measures(): string[] {
    const { places } = this.sheet;
    const { ids, row, systems } = this.options;
    return places.map((place, i) => {
      const before = places[i - 1];
      const again = before?.number === place.number && before.ending === place.ending;
      const attributes = {
        number: place.pickup && place.index > 0 ? `X${place.index}` : place.number,
        implicit: place.pickup || place.offset > 0 || again ? "yes" : undefined,
        id: ids ? `m.${this.staff.id}.${place.index}` : undefined,
      };
      const system = (row && i === 0) || (i > 0 && this.leads && systems?.has(i));
      return el(
        "measure",
        attributes,
        system ? el("print", { "new-system": "yes" }) : undefined,
        this.leftBar(place),
        this.attributes(place, i),
        this.leads && i === 0 && !row ? tempoXml(this.sheet.tempo) : undefined,
        this.letter(place),
        this.music(place, i),
        this.rightBar(place, i),
      );
    });
  }

  private attributes(place: Place, i: number): string | undefined {
    const change = place.bar.changes.filter((c) => c.at === 0);
    const key = i === 0 ? place.key : change.find((c) => c.key)?.key;
    const starts = i === 0 && !(this.options.row && place.index > 0);
    const metre = starts ? place.metre : change.find((c) => c.metre)?.metre;
    if (key) this.notes.setKey(key);
    const hidden = i === 0 && !metre ? timeXml(place.metre, false) : "";
    const inner = [
      i === 0 ? text("divisions", QUARTER) : "",
      key ? keyXml(key) : "",
      metre ? timeXml(metre) : hidden,
      i === 0 ? clefXml(this.staff, this.options.ids === true) : "",
    ].join("");
    const tempo = i > 0 && this.leads ? change.find((c) => c.tempo)?.tempo : undefined;
    return (inner ? el("attributes", {}, inner) : "") + (tempoXml(tempo) ?? "");
  }

  /** The letter of a strain over its first bar. */
  private letter({ index }: Place): string | undefined {
    const found = this.leads ? this.sheet.letters?.find((l) => l.bar === index) : undefined;
    if (!found) return undefined;
    return el("direction", { placement: "above" }, el("direction-type", {}, text("rehearsal", found.letter)));
  }

  private leftBar(place: Place): string | undefined {
    const { bar } = place;
    if (bar.ending) this.ending = bar.ending.join(",");
    if (!bar.repeatStart && !bar.ending) return undefined;
    const ending = this.leads && bar.ending;
    return el(
      "barline",
      { location: "left" },
      bar.repeatStart ? text("bar-style", "heavy-light") : undefined,
      ending ? el("ending", { number: this.ending, type: "start" }, `${this.ending}.`) : undefined,
      bar.repeatStart ? el("repeat", { direction: "forward" }) : undefined,
    );
  }

  private rightBar(place: Place, i: number): string | undefined {
    const { bar } = place;
    const next = this.sheet.places[i + 1];
    const last = bar.endingStop || bar.repeatEnd !== undefined || next === undefined || next.bar.ending !== undefined;
    const closes = this.ending !== undefined && last;
    const style = bar.repeatEnd ? "light-heavy" : BAR_STYLES.get(bar.barline);
    const type = bar.repeatEnd ? "stop" : "discontinue";
    const ending = closes && this.leads ? el("ending", { number: this.ending, type }) : undefined;
    if (closes) this.ending = undefined;
    if (!style && !ending) return undefined;
    const times = bar.repeatEnd !== undefined && bar.repeatEnd > 2 ? bar.repeatEnd : undefined;
    return el(
      "barline",
      { location: "right" },
      style ? text("bar-style", style) : undefined,
      ending,
      bar.repeatEnd ? el("repeat", { direction: "backward", times }) : undefined,
    );
  }

  private music(place: Place, i: number): string {
    this.notes.newBar();
    const pieces = this.bars[i] ?? [];
    const chords = this.leads ? this.sheet.chords.filter((c) => c.bar === i).sort((a, b) => a.at - b.at) : [];
    const words = beams(
      place,
      pieces.map((p) => p.event),
    );
    let at = 0;
    let out = "";
    pieces.forEach(({ event, from, first }, p) => {
      const last = p === pieces.length - 1;
      out += this.keyChanges(place, at, event);
      const own = chords.filter((c) => c.at >= at && (last || c.at < at + event.ticks));
      out += own.map((c) => harmonyXml(c, c.at - at)).join("");
      out += directionsXml(event);
      const id = this.options.ids && first ? `${this.staff.id}.${place.index}.${from}` : undefined;
      out += this.notes.note({ event, id, beams: words[p] ?? [], slurs: this.slurs.get(event) });
      at += event.ticks;
    });
    return out;
  }

  /** Changes of key and tempo that fall on a note inside the bar. */
  private keyChanges(place: Place, at: number, event: Event): string {
    const inside = place.bar.changes.filter((c) => c.at > 0 && c.at >= at && c.at < at + event.ticks);
    const key: Key | undefined = inside.findLast((c) => c.key)?.key;
    if (key) this.notes.setKey(key);
    const tempo = this.leads ? inside.findLast((c) => c.tempo)?.tempo : undefined;
    return (key ? el("attributes", {}, keyXml(key)) : "") + (tempoXml(tempo) ?? "");
  }
}
