"use client";
import { Box } from "@chakra-ui/react";
import { memo, useMemo } from "react";
import { type HarmonyLine, type HarmonyNote, stepsToThird } from "../../core/harmony";
import { barLabelAt, type Place } from "../../core/score";
import type { Measured } from "../../engraving";
import css from "./lane.module.css";
import { partOfLine, type RowOf } from "./layout";
import { useBench } from "./state";

type StaffOf = Measured["staves"][number];
type Props = {
  notes: readonly HarmonyNote[];
  line: HarmonyLine;
  staff: string;
  places: readonly Place[];
  measured: Measured;
};

/** The marks of every line in a row, each on its own staff. */
export function RowLines({ row, places, measured }: { row: RowOf; places: readonly Place[]; measured: Measured }) {
  const lines = useBench((s) => s.derived.lines);
  const parts = useBench((s) => s.derived.parts);
  const { from, to } = row;
  const marked = useMemo(
    () =>
      lines.flatMap((line) => {
        const staff = partOfLine(parts, line.id)?.id;
        return staff ? [{ line, staff, notes: line.notes.filter((n) => n.bar >= from && n.bar <= to) }] : [];
      }),
    [lines, parts, from, to],
  );
  return marked.map(({ line, staff, notes }) => (
    <LineMarks key={line.id} notes={notes} line={line} staff={staff} places={places} measured={measured} />
  ));
}

/**
 * Marks on a line's staff: a peg at notes the teacher has settled, interval numbers under the notes, and a hollow
 * ring where the plain third would lie.
 */
const LineMarks = memo(function LineMarks({ notes, line, staff: id, places, measured }: Props) {
  const numbers = useBench((s) => s.numbers);
  const ghost = useBench((s) => s.ghost);
  const own = measured.staves.filter((s) => s.staff === id);
  const lowest = Math.max(...own.map((s) => s.lowest));
  return notes.map((note) => {
    const staff = own.find((s) => s.bar === note.bar);
    const place = places.find((p) => p.index === note.bar);
    const x = staff?.notes.find((n) => n.event === note.event)?.x;
    if (!staff || !place || x === undefined) return null;
    const away = ghost ? stepsToThird(note, line, place) : 0;
    const numbered = numbers && note.interval !== null;
    if (!note.locked && !numbered && away === 0) return null;
    return (
      <div key={`${note.bar}.${note.event}`} className={css.mark} style={{ left: x }}>
        {note.locked && (
          <div className={css.settled} data-broken={note.broken ? "" : undefined} style={{ top: staff.top - 10 }} />
        )}
        {numbered && (
          <div className={css.interval} style={{ top: lowest + 8 }}>
            {note.interval}
          </div>
        )}
        {away !== 0 && <Third staff={staff} event={note.event} away={away} />}
      </div>
    );
  });
});

/** A hollow ring so many steps from a note's head. */
function Third({ staff, event, away }: { staff: StaffOf; event: number; away: number }) {
  const head = staff.heads.get(event);
  const step = (staff.bottom - staff.top) / 8;
  if (head === undefined) return null;
  return <div className={css.third} style={{ top: head - away * step - 3.5 }} title="where the plain third would be" />;
}

/** Clash above which a bar gets its notch, and above which it is madder. */
const NOTCH = 30;
const HARSH = 50;

/** A notch under every bar in which the first line rubs against the tune. */
export function Clashes({ measured }: { measured: Measured }) {
  const clashes = useBench((s) => s.derived.lines[0]?.clashes);
  const places = useBench((s) => s.derived.analysis.places);
  return measured.bars.map((b) => {
    const clash = clashes?.[b.index] ?? 0;
    return clash < NOTCH ? null : (
      <Box
        key={b.index}
        as="span"
        position="absolute"
        h="5px"
        borderRadius="1px"
        bg={clash >= HARSH ? "madder" : "weld"}
        title={`Bar ${barLabelAt(places, b.index)} ${clash >= HARSH ? "is harsh" : "is rough"} (${clash} of 100)`}
        style={{
          left: b.left + 4,
          top: b.bottom + 4,
          width: Math.max(8, ((b.right - b.left - 8) * clash) / 100),
        }}
      />
    );
  });
}
