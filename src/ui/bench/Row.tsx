"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { memo, useEffect, useMemo, useRef } from "react";
import { relationWords } from "../../core/analysis";
import { groupPartId, HAND_STAFF } from "../../core/ensemble";
import type { Part } from "../../core/grading";
import { barLabel, lengthWords, mendBar, notices, type Sheet } from "../../core/score";
import { pitchName } from "../../core/theory";
import { STRUM_STAFF } from "../../core/strokes";
import { type Drawing, type Measured, noteAt } from "../../engraving";
import { RoleBadge, type Voice, VOICES } from "../roles";
import { listed } from "../signs";
import { Engraving } from "../engraving/Engraving";
import { WeaveStrip } from "../weave/WeaveStrip";
import { CellLane } from "./CellLane";
import { HeatLane } from "./HeatLane";
import { HoleLane } from "./HoleLane";
import { RowChords } from "./ChordLane";
import { enlarged, timed } from "./chordPlaces";
import css from "./lane.module.css";
import { hasChords, hasLane, lineNoteAt, type RowOf, rowSheet } from "./layout";
import { Clashes, RowLines } from "./LineMarks";
import { NameLane } from "./NameLane";
import { ShuttleLane } from "./ShuttleLane";
import { PickLane, StrumLane } from "./StrokeLanes";
import { useBench, useBenchStore } from "./state";
import { useDrawn } from "./useDrawn";
import { useLens } from "./useLens";
import { useNaming } from "./useNaming";
import { useNear } from "./useNear";
import { useNoteDrag } from "./useNoteDrag";

type Props = {
  row: RowOf;
  sheet: Sheet;
  /** Pixels the music is drawn for, and how much it is enlarged then. */
  width: number;
  size: number;
  drawings: Record<string, Drawing>;
  inView: Set<number>;
};

/** Height a row is given before it is drawn, by the number of its staves. Pixels. */
const HEIGHT = { first: 96, more: 64, lane: 40 };

/**
 * One phrase: its name and what it repeats, the chords over their notes, the staves. Drawn anew only when its own
 * music changes.
 */
export const Row = memo(function Row({ row, sheet, width, size, drawings, inView }: Props) {
  const section = useRef<HTMLDivElement>(null);
  const { lens } = useLens();
  const near = useNear(section);
  useEffect(() => {
    if (near) inView.add(row.from);
    return () => void inView.delete(row.from);
  }, [near, inView, row.from]);
  const own = useMemo(() => rowSheet(sheet, row), [sheet, row]);
  const drawing = useDrawn(own, width, near, drawings);
  const form = useBench((s) => s.derived.analysis.form);
  const relation = relationWords(row.phrase, form, sheet.places);
  const numbers = useBench((s) => s.numbers) && lens === "Harmony";
  const chords = useBench((s) => hasChords(lens, s.hand));
  useFollow(section, row);
  const staves = own.staves.length;
  const height = size * (HEIGHT.first + HEIGHT.more * (staves - 1)) + (hasLane(lens) ? HEIGHT.lane : 0);
  return (
    <Flex
      ref={section}
      as="section"
      css={{ contain: "layout style", contentVisibility: "auto", containIntrinsicSize: `auto ${height}px` }}
      aria-label={relation ? `${row.phrase.name}: ${relation}` : row.phrase.name}
      borderBottom="1px solid"
      borderColor="cord"
      // A row's paint ends at its edge: bar numbers left of a stacked staff need room inside it.
      mx={{ base: "-14px", md: 0 }}
      px={{ base: "14px", md: 0 }}
      pt="8px"
      pb={numbers ? "20px" : "2px"}
      direction={{ base: "column", md: "row" }}
    >
      <Gutter row={row} relation={relation} low={chords} />
      <Music row={row} own={own} drawing={drawing} staves={staves} size={size} />
    </Flex>
  );
});

/** Brings the row into view that begins to sound, or that is gone to; also when the sheet under it opens. */
function useFollow(section: React.RefObject<HTMLDivElement | null>, { from, to }: RowOf) {
  const here = useBench(({ sounding, bar }) => (sounding ?? bar) >= from && (sounding ?? bar) <= to);
  const folded = useBench((s) => s.folded);
  const shown = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a sheet that opens may cover the row
  useEffect(() => {
    // A page that has just come stands where it stands.
    if (here && shown.current) section.current?.scrollIntoView({ block: "nearest", behavior: "auto" });
    shown.current = true;
  }, [here, folded, section]);
}

function Gutter({ row, relation, low }: { row: RowOf; relation: string; low: boolean }) {
  const { phrase, from, to } = row;
  const weave = useBench((s) => s.derived.weave);
  const cells = useMemo(() => weave.filter((c) => c.bar >= from && c.bar <= to), [weave, from, to]);
  const first = from === phrase.from;
  return (
    <Box
      w={{ base: "100%", md: "132px" }}
      flexShrink={0}
      pr={{ base: 0, md: "32px" }}
      pt={{ base: "2px", md: low ? "36px" : "12px" }}
    >
      {first && (
        <Text fontFamily="heading" fontSize="20px" fontWeight="600" lineHeight="24px">
          {phrase.name}
        </Text>
      )}
      <Box my="5px">
        <WeaveStrip cells={cells} height={9} />
      </Box>
      {first && (
        <Text fontSize="13px" color="quiet" lineHeight="17px">
          {relation.replaceAll("–", "\u2060–\u2060")}
        </Text>
      )}
    </Box>
  );
}

type MusicProps = { row: RowOf; own: Sheet; drawing: Drawing | undefined; staves: number; size: number };

/** The engraved staves with everything that is drawn over and under them. */
function Music({ row, own, drawing, staves, size }: MusicProps) {
  const { lens } = useLens();
  const holder = useRef<HTMLDivElement>(null);
  const svg = drawing?.svg;
  const measured = useMemo(() => drawing && timed(enlarged(drawing.measured, size), own), [drawing, size, own]) ?? null;
  // While the ear is asked, the chords do not whisper the answer.
  const asked = useBench((s) => s.trying) && lens === "Harmony";
  const hand = useBench((s) => s.hand);
  const chords = hasChords(lens, hand);
  const hands = useBench((s) => (s.page === "Hands" ? s.handShown : null));
  const { spelling, read } = useNaming();
  const Lane = LANES[hand];
  const drag = useNoteDrag(holder, measured, lens);
  const click = useClick(holder, measured, lens);
  useChosenMark(holder, own, svg ?? "");
  const { places } = own;
  const parts = useBench((s) => s.derived.parts);
  const shown = own.staves.flatMap(({ id }) => parts.find((p) => p.id === id) ?? []);
  return (
    <Box flex="1" minW="0" position="relative" minH="110px">
      {chords && !asked && <RowChords row={row} places={places} measured={measured} compared={lens === "Chords"} />}
      <Box position="relative">
        <Frames measured={measured} />
        {svg ? (
          // The arrow keys and Enter do the same for the whole page; chords have buttons above the picture.
          <Engraving
            ref={holder}
            role="img"
            aria-label={musicWords(row, own, shown)}
            {...staffColours(shown)}
            style={{ position: "relative", width: drawing.width * size, ...drag.style }}
            onClick={click}
            {...drag.handlers}
            svg={svg}
          />
        ) : (
          <EmptyStaves count={staves} />
        )}
        {measured && <StaffSigns parts={shown} measured={measured} />}
        {measured && lens === "Tune" && <Notices row={row} measured={measured} />}
        {lens === "Pulse" && measured && <CellLane row={row} measured={measured} />}
        {lens === "Feel" && measured && <Lane row={row} measured={measured} />}
        {lens === "Tune" && spelling && <NameLane places={places} measured={measured} spelling={spelling} on={read} />}
        {hands && lens === "Tune" && measured && <HoleLane row={row} measured={measured} name={hands} />}
        {lens === "Parts" && measured && <HeatLane row={row} measured={measured} />}
        {lens === "Harmony" && measured && <RowLines row={row} places={places} measured={measured} />}
        {lens === "Harmony" && measured && <Clashes measured={measured} />}
      </Box>
    </Box>
  );
}

/** The lane of each hand, under the staff. */
const LANES = { bow: ShuttleLane, plectrum: PickLane, strum: StrumLane };

/** The colour of each staff, from the top, for the style sheet; a second line on the same side has its own shade. */
function staffColours(shown: readonly Part[]): Record<string, string> {
  const seen = new Map<string, number>();
  return Object.fromEntries(
    shown.map(({ role }, i) => {
      const order = (seen.get(role) ?? 0) + 1;
      seen.set(role, order);
      return [`data-staff-${i + 1}`, `${VOICES[role].color}${order > 1 ? "-second" : ""}`];
    }),
  );
}

/** The row for who cannot see it: which parts, which bars, and the notes of the first of them by name. */
function musicWords({ phrase }: RowOf, { staves, places }: Sheet, shown: readonly Part[]): string {
  const [first] = staves;
  const bars = places.map((place, i) => {
    const events = first?.bars[i] ?? [];
    const notes = events.map(({ pitches }) => pitches.map((p) => spoken(pitchName(p))).join(" with ") || "rest");
    return `${place.pickup ? "pickup" : `bar ${barLabel(place)}`}: ${notes.join(", ")}`;
  });
  return `${phrase.name}, ${listed(shown.map((p) => p.name))}. ${bars.join(". ")}.`;
}
const spoken = (name: string) => name.replace("#", " sharp").replace("b", " flat").replace(/\d/, " $&");

/** What stands under the parts without being one: the strum, and the tune under a hand. */
const OTHERS: Readonly<Record<string, { name: string; role: Voice }>> = {
  [STRUM_STAFF]: { name: "Strum", role: "chords" },
  [HAND_STAFF]: { name: "Under the hand", role: "melody" },
};
/** At every staff of a row its role. */
function StaffSigns({ parts, measured }: { parts: readonly Part[]; measured: Measured }) {
  const evening = useBench((s) => s.evening);
  const first = measured.staves.filter((s) => s.bar === measured.bars[0]?.index);
  const players = (evening?.parts ?? []).map((p) => ({ id: groupPartId(p.id), name: p.learner.name, role: p.role }));
  return first.map(({ staff, top, bottom }) => {
    const part = OTHERS[staff] ?? [...parts, ...players].find((p) => p.id === staff);
    return part ? (
      <div key={staff} className={css.staffSign} style={{ top: (top + bottom) / 2 - 9 }} title={part.name}>
        <RoleBadge voice={part.role} size={18} />
      </div>
    ) : null;
  });
}

/** Over every bar that does not add up: by how much, and a press that mends it. */
function Notices({ row, measured }: { row: RowOf; measured: Measured }) {
  const places = useBench((s) => s.derived.analysis.places);
  const edit = useBench((s) => s.edit);
  const own = useMemo(() => notices(places).filter((n) => n.bar >= row.from && n.bar <= row.to), [places, row]);
  return own.map(({ bar, label, off, message }) => {
    const at = measured.bars.find((b) => b.index === bar);
    if (!at) return null;
    const words = `${lengthWords(Math.abs(off))} ${off > 0 ? "too many" : "short"}: mend`;
    return (
      <button
        key={bar}
        type="button"
        className={css.notice}
        style={{ left: at.left + 4, top: Math.max(0, at.top - 30) }}
        title={message}
        aria-label={`${message} Mend bar ${label}.`}
        onClick={() => edit(`Bar ${label} mended`, (tune) => mendBar(tune, bar))}
      >
        {words}
      </button>
    );
  });
}

/** Staff lines where the music will stand, until it is drawn. */
const EmptyStaves = ({ count }: { count: number }) => (
  <Box aria-hidden pt="30px">
    {Array.from({ length: count }, (_, i) => `staff ${i}`).map((staff) => (
      <Box
        key={staff}
        h="33px"
        mb="31px"
        borderBottom="1px solid"
        borderColor="quiet"
        opacity={0.55}
        bgImage="repeating-linear-gradient(var(--chakra-colors-quiet) 0 1px, transparent 1px 8px)"
      />
    ))}
  </Box>
);

/** Marks the chosen note in the drawing itself. */
function useChosenMark(holder: React.RefObject<HTMLDivElement | null>, own: Sheet, svg: string) {
  const bench = useBenchStore();
  const selection = useBench((s) => s.selection);
  useEffect(() => {
    const box = holder.current;
    for (const old of box?.querySelectorAll("[data-chosen]") ?? []) old.removeAttribute("data-chosen");
    const { derived } = bench.getState();
    const marks: string[] = [];
    if (selection?.kind === "note") {
      const note = derived.lines.find((l) => l.id === selection.line)?.notes[selection.index];
      const staves = derived.parts.filter((p) => p.line === selection.line);
      if (note) marks.push(...staves.map((p) => `${p.id}.${note.bar}.${note.event}`));
    } else if (selection?.kind === "event") marks.push(`${own.staves[0]?.id}.${selection.bar}.${selection.event}`);
    if (svg) for (const id of marks) box?.querySelector(`[data-id="${id}"]`)?.setAttribute("data-chosen", "");
  }, [selection, svg, holder, bench, own]);
}

/**
 * A click on a note of a line looks at it; in the tune lens, on a note of the tune; anywhere else it goes to the bar.
 */
function useClick(
  holder: React.RefObject<HTMLDivElement | null>,
  measured: Measured | null,
  lens: string,
): (event: React.MouseEvent) => void {
  const bench = useBenchStore();
  return (event) => {
    const box = holder.current?.getBoundingClientRect();
    if (!box || !measured) return;
    const { derived, select, pick } = bench.getState();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const hit = event.shiftKey ? undefined : noteAt(measured, x, y);
    const part = derived.parts.find((p) => p.id === hit?.staff);
    const line = derived.lines.find((l) => l.id === part?.line);
    if (hit && line) {
      const index = lineNoteAt(line.notes, hit);
      if (index >= 0) return select({ kind: "note", line: line.id, index });
    }
    if (hit && lens === "Tune" && part?.role === "melody") {
      return select({ kind: "event", bar: hit.bar, event: hit.event });
    }
    const bar = measured.bars.find((b) => x >= b.left && x <= b.right);
    if (bar) pick(bar.index, event.shiftKey);
  };
}

/** A box over a bar's staves, with a little room above and below. */
const over = (b: Measured["bars"][number]) => ({
  left: b.left,
  width: b.right - b.left,
  top: b.top - 8,
  height: b.bottom - b.top + 16,
});

/** The bar that is looked at or sounds, and the bars of the loop. */
function Frames({ measured }: { measured: Measured | null }) {
  const own = (bar: number | null) => measured?.bars.find((b) => b.index === bar);
  const sounding = useBench((s) => (own(s.sounding) ? s.sounding : null));
  const silent = useBench((s) => s.sounding === null);
  const bar = useBench((s) => (s.sounding === null && own(s.bar) ? s.bar : null));
  const loop = useBench((s) => s.loop);
  const framed = own(sounding ?? bar);
  return (
    <>
      {framed && (
        <Box
          position="absolute"
          pointerEvents="none"
          borderRadius="4px"
          style={over(framed)}
          border={silent ? undefined : "2.5px solid var(--chakra-colors-ink)"}
          bg={silent ? "linen" : undefined}
        />
      )}
      {loop &&
        measured?.bars
          .filter((b) => b.index >= loop.from && b.index <= loop.to)
          .map((b) => (
            <Box key={b.index} position="absolute" pointerEvents="none" bg="wash" opacity={0.6} style={over(b)} />
          ))}
    </>
  );
}
