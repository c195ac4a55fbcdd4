/** Where things stand in a drawn row, in pixels from its left and top. */
export type Measured = {
  bars: { index: number; left: number; right: number; top: number; bottom: number }[];
  /** Middle of the head of each event of the first staff, by "BAR.EVENT". */
  notes: ReadonlyMap<string, number>;
  /** Every staff of every bar with its notes, for telling what a click meant. */
  staves: StaffPlace[];
};
type StaffPlace = {
  bar: number;
  staff: string;
  top: number;
  bottom: number;
  /** The lowest of its lines, heads and stems. */
  lowest: number;
  notes: { event: number; x: number }[];
  /** Height of each event's head. */
  heads: ReadonlyMap<number, number>;
};

/** Half the width of heads and rests, in staff spaces, by their glyph: the music font's own measures. */
const HALF_WIDTHS: ReadonlyMap<string, number> = new Map([
  ["E0A0", 1.2],
  ["E0A2", 0.85],
  ["E0A3", 0.63],
  ["E0A4", 0.63],
  ["E4E3", 0.56],
  ["E4E4", 0.56],
  ["E4E5", 0.54],
  ["E4E6", 0.5],
  ["E4E7", 0.64],
]);
const HALF_WIDTH = 0.6;
/** Room left of a row's first note that is framed with its bar, past clef and signature. Pixels. */
const BEFORE_FIRST = 18;

const SIZE = /<svg class="definition-scale"[^>]*viewBox="0 0 (?<width>\d+) /;
const MARGIN = /class="page-margin" transform="translate\((?<x>-?[\d.]+), (?<y>-?[\d.]+)\)"/;
/** What is read of the drawing, in its order: groups that open and close, lines of a staff, glyphs and letters. */
const PIECE = new RegExp(
  [
    /<g (?<group>[^>]*?)(?<empty>\/?)>/,
    /(?<close><\/g>)/,
    /<path d="M(?<x1>-?\d+) (?<y1>-?\d+) L(?<x2>-?\d+) (?<y2>-?\d+)"/,
    /<use href="#(?<glyph>[0-9A-F]+)[^"]*" transform="translate\((?<ux>-?\d+), (?<uy>-?\d+)\)/,
    /<text x="(?<tx>-?\d+)" y="(?<ty>-?\d+)"/,
  ]
    .map((piece) => piece.source)
    .join("|"),
  "g",
);
const ID = /data-id="(?<id>[^"]*\.[^"]*)"/;
const CLASS = /(?:^| )class="(?<name>[\w-]+)/;

type Line = { left: number; right: number; y: number };
type Staff = { lines: Line[]; heads: Map<string, { x: number; y: number }>; stems: number[] };
type Bar = { index: number; staves: Staff[] };

/** The bars of a drawing with their staves' lines and heads, in the drawing's own units. */
function read(svg: string): Bar[] {
  const bars: Bar[] = [];
  const open: { name: string; id: string }[] = [];
  const inside = (name: string) => open[open.length - 1]?.name === name;
  const staff = () => bars[bars.length - 1]?.staves.slice(-1)[0];
  for (const { groups: piece = {} } of svg.matchAll(PIECE)) {
    if (piece.close) open.pop();
    else if (piece.group !== undefined) {
      const name = CLASS.exec(piece.group)?.groups?.name ?? "";
      const id = ID.exec(piece.group)?.groups?.id ?? "";
      if (name === "measure") bars.push({ index: Number(id.split(".").pop()), staves: [] });
      if (name === "staff") bars[bars.length - 1]?.staves.push({ lines: [], heads: new Map(), stems: [] });
      if (!piece.empty) open.push({ name, id });
    } else if (piece.x1 !== undefined) {
      if (inside("staff") && piece.y1 === piece.y2)
        staff()?.lines.push({ left: Number(piece.x1), right: Number(piece.x2), y: Number(piece.y1) });
      else if (inside("stem")) staff()?.stems.push(Number(piece.y1), Number(piece.y2));
    } else {
      const owner = open.findLast((g) => g.id && !g.id.startsWith("m."));
      const heads = staff()?.heads;
      if (!owner || !heads || heads.has(owner.id) || inside("stem") || inside("accid")) continue;
      const half = piece.glyph ? (HALF_WIDTHS.get(piece.glyph) ?? HALF_WIDTH) : 0;
      heads.set(owner.id, { x: Number(piece.ux ?? piece.tx) + half * SPACE, y: Number(piece.uy ?? piece.ty) });
    }
  }
  return bars;
}
/** A staff space in the drawing's units. */
const SPACE = 180;

/** Reads from a drawn row where its bars and notes stand. `lines` are the ids of its staves from the top. */
export function measured(svg: string, width: number, lines: readonly string[]): Measured {
  const scale = width / Number(SIZE.exec(svg)?.groups?.width ?? width);
  const margin = MARGIN.exec(svg)?.groups;
  const x = (at: number) => (at + Number(margin?.x ?? 0)) * scale;
  const y = (at: number) => (at + Number(margin?.y ?? 0)) * scale;
  const found = read(svg).filter((b) => b.staves.some((s) => s.lines.length > 0));
  const bars = found.map(({ index, staves }) => {
    const all = staves.flatMap((s) => s.lines);
    return {
      index,
      left: x(Math.min(...all.map((l) => l.left))),
      right: x(Math.max(...all.map((l) => l.right))),
      top: y(Math.min(...all.map((l) => l.y))),
      bottom: y(Math.max(...all.map((l) => l.y))),
    };
  });
  const staves = found.flatMap(({ index, staves: own }) =>
    own.map((staff, i): StaffPlace => {
      const heads = [...staff.heads].map(([id, at]) => ({ event: Number(id.split(".").pop()), ...at }));
      const ys = staff.lines.map((l) => l.y);
      return {
        bar: index,
        staff: lines[i] ?? "",
        top: y(Math.min(...ys)),
        bottom: y(Math.max(...ys)),
        lowest: y(Math.max(...ys, ...staff.stems, ...heads.map((h) => h.y))),
        notes: heads.map((h) => ({ event: h.event, x: x(h.x) })),
        heads: new Map(heads.map((h) => [h.event, y(h.y)])),
      };
    }),
  );
  const melody = staves.filter((s) => s.staff === lines[0]);
  const notes = new Map(melody.flatMap((s) => s.notes.map((n) => [`${s.bar}.${n.event}`, n.x] as const)));
  const first = bars[0];
  const start = first && melody.find((s) => s.bar === first.index)?.notes.map((n) => n.x);
  if (first && start?.length) first.left = Math.max(first.left, Math.min(...start) - BEFORE_FIRST);
  return { bars, notes, staves };
}

/** How far from its left line a click still means a bar, in pixels. */
const SLACK = 4;

/** The note a point in the row means: the nearest one of the staff it lies closest to. */
export function noteAt(
  { bars, staves }: Measured,
  x: number,
  y: number,
): { bar: number; staff: string; event: number } | undefined {
  const bar = bars.find((b) => x >= b.left - SLACK && x <= b.right);
  const away = (s: StaffPlace) => Math.max(s.top - y, y - s.bottom, 0);
  const staff = staves.filter((s) => s.bar === bar?.index).sort((a, b) => away(a) - away(b))[0];
  const note = staff && [...staff.notes].sort((a, b) => Math.abs(a.x - x) - Math.abs(b.x - x))[0];
  return note && { bar: staff.bar, staff: staff.staff, event: note.event };
}
