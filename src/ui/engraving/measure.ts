/** Where things stand in an engraved row, in pixels from its left and top. */
export type Measured = {
  bars: { index: number; left: number; right: number; top: number; bottom: number }[];
  /** Middle of the head of each event of the first staff, by "BAR.EVENT". */
  notes: ReadonlyMap<string, number>;
};

/** Reads bars and notes from the engraver's SVG by their ids. `staff` is the id of the first staff. */
export function measureRow(holder: HTMLElement, bars: readonly number[], staff: string): Measured {
  const origin = holder.getBoundingClientRect();
  const found = bars.flatMap((index) => {
    const measure = holder.querySelector(`[data-id="m.${staff}.${index}"]`);
    const staves = [...(measure?.querySelectorAll(":scope > g.staff") ?? [])].flatMap((s) => [...s.querySelectorAll(":scope > path")]).map((p) => p.getBoundingClientRect());
    if (staves.length === 0) return [];
    const edge = (pick: (r: DOMRect) => number, best: (...n: number[]) => number) => best(...staves.map(pick));
    return [{
      index, left: edge((r) => r.left, Math.min) - origin.left, right: edge((r) => r.right, Math.max) - origin.left,
      top: edge((r) => r.top, Math.min) - origin.top, bottom: edge((r) => r.bottom, Math.max) - origin.top,
    }];
  });
  const notes = new Map<string, number>();
  for (const element of holder.querySelectorAll(`[data-id^="${staff}."]`)) {
    const head = element.querySelector("g.notehead") ?? element;
    const box = head.getBoundingClientRect();
    const name = (element.getAttribute("data-id") ?? "").slice(staff.length + 1);
    if (box.width > 0) notes.set(name, box.left + box.width / 2 - origin.left);
  }
  return { bars: found, notes };
}
