/** Where things stand in an engraved row, in pixels from its left and top. */
export type Measured = {
  bars: { index: number; left: number; right: number; top: number; bottom: number }[];
  /** Middle of the head of each event of the first staff, by "BAR.EVENT". */
  notes: ReadonlyMap<string, number>;
  /** Every staff of every bar with its notes, for telling what a click meant. */
  staves: {
    bar: number;
    staff: string;
    top: number;
    bottom: number;
    notes: { event: number; x: number }[];
    /** Height of each event's head. */
    heads: ReadonlyMap<number, number>;
  }[];
};

/** The note a point in the row means: the nearest one of the staff it lies closest to. */
export function noteAt(
  { bars, staves }: Measured,
  x: number,
  y: number,
): { bar: number; staff: string; event: number } | undefined {
  const bar = bars.find((b) => x >= b.left - 4 && x <= b.right);
  const away = (s: Measured["staves"][number]) => Math.max(s.top - y, y - s.bottom, 0);
  const staff = staves.filter((s) => s.bar === bar?.index).sort((a, b) => away(a) - away(b))[0];
  const note = staff && [...staff.notes].sort((a, b) => Math.abs(a.x - x) - Math.abs(b.x - x))[0];
  return note && { bar: staff.bar, staff: staff.staff, event: note.event };
}

/** Reads bars and notes from the engraver's SVG by their ids. `lines` are the ids of its staves from the top. */
export function measureRow(holder: HTMLElement, bars: readonly number[], lines: readonly string[]): Measured {
  const staff = lines[0] ?? "";
  const origin = holder.getBoundingClientRect();
  const found = bars.flatMap((index) => {
    const measure = holder.querySelector(`[data-id="m.${staff}.${index}"]`);
    const staves = [...(measure?.querySelectorAll(":scope > g.staff") ?? [])]
      .flatMap((s) => [...s.querySelectorAll(":scope > path")])
      .map((p) => p.getBoundingClientRect());
    if (staves.length === 0) return [];
    const edge = (pick: (r: DOMRect) => number, best: (...n: number[]) => number) => best(...staves.map(pick));
    return [
      {
        index,
        left: edge((r) => r.left, Math.min) - origin.left,
        right: edge((r) => r.right, Math.max) - origin.left,
        top: edge((r) => r.top, Math.min) - origin.top,
        bottom: edge((r) => r.bottom, Math.max) - origin.top,
      },
    ];
  });
  const notes = new Map<string, number>();
  for (const element of holder.querySelectorAll(`[data-id^="${staff}."]`)) {
    const head = element.querySelector("g.notehead") ?? element;
    const box = head.getBoundingClientRect();
    const name = (element.getAttribute("data-id") ?? "").slice(staff.length + 1);
    if (box.width > 0) notes.set(name, box.left + box.width / 2 - origin.left);
  }
  // The first bar of a row is framed from its first note, past clef and signature.
  const first = found[0];
  const start =
    first && Math.min(...[...notes].filter(([name]) => name.startsWith(`${first.index}.`)).map(([, x]) => x));
  if (first && start !== undefined && Number.isFinite(start)) first.left = Math.max(first.left, start - 18);
  const staves = bars.flatMap((bar) => {
    const measure = holder.querySelector(`[data-id="m.${staff}.${bar}"]`);
    return [...(measure?.querySelectorAll(":scope > g.staff") ?? [])].map((element, i) => {
      const edges = [...element.querySelectorAll(":scope > path")].map((p) => p.getBoundingClientRect());
      const line = lines[i] ?? "";
      const heads = [...element.querySelectorAll(`[data-id^="${line}."]`)].map((note) => {
        const box = note.getBoundingClientRect();
        const head = note.querySelector("g.notehead")?.getBoundingClientRect() ?? box;
        return {
          event: Number(note.getAttribute("data-id")?.split(".")[2]),
          x: box.left + box.width / 2 - origin.left,
          y: head.top + head.height / 2 - origin.top,
        };
      });
      return {
        bar,
        staff: line,
        top: Math.min(...edges.map((e) => e.top)) - origin.top,
        bottom: Math.max(...edges.map((e) => e.bottom)) - origin.top,
        notes: heads,
        heads: new Map(heads.map((h) => [h.event, h.y])),
      };
    });
  });
  return { bars: found, notes, staves };
}
