"use client";
import { Box } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Drawing } from "../../engraving";
import type { Derived } from "../../core/ensemble";
import {
  benchSheet,
  drawnWidth,
  GUTTER,
  type Lens,
  type Look,
  ROOM_COOKIE,
  type Room,
  rowSheet,
  rowsOf,
  sizeOf,
} from "./layout";
import { Row } from "./Row";
import { useBench, useBenchStore } from "./state";
import { drawAhead } from "./useDrawn";
import { useLens } from "./useLens";

/** Under this width of the window the gutter stands over its row. */
const STACKED = 768;
const COOKIE_AGE = 60 * 60 * 24 * 365;

/**
 * The room for the rows' music: what the server laid out for, until it is measured; then remembered for the next page.
 */
function useRoom(usual: Room) {
  const box = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(usual);
  useEffect(() => {
    // The rows and the sheet under them together: a sheet that opens leaves the music its size.
    const outer = box.current?.parentElement?.parentElement;
    const measure = () => {
      const width = Math.floor((box.current?.clientWidth ?? 0) - (window.innerWidth < STACKED ? 0 : GUTTER));
      const height = outer?.clientHeight ?? 0;
      if (width < 100) return;
      setRoom((old) => (old.width === width && old.height === height ? old : { width, height }));
      // biome-ignore lint/suspicious/noDocumentCookie: the server reads it to draw the next page's rows for this room
      document.cookie = `${ROOM_COOKIE}=${width}x${height}; path=/; max-age=${COOKIE_AGE}; samesite=strict`;
    };
    measure();
    const observer = new ResizeObserver(measure);
    if (box.current) observer.observe(box.current);
    window.addEventListener("resize", measure);
    return () => {
      observer.disconnect();
      window.removeEventListener("resize", measure);
    };
  }, []);
  return { box, room };
}

/**
 * Draws the rows in view as soon as there is something new to see in them, while React is still at work on the rest.
 * Gives the set that rows in view put themselves into, by their first bar.
 */
function useDrawnAhead(width: number, lens: Lens, look: Look): Set<number> {
  const bench = useBenchStore();
  const [inView] = useState(() => new Set<number>());
  useEffect(() => {
    const ahead = (derived: Derived) => {
      const sheet = benchSheet(bench.getState().work, derived, lens, look);
      const rows = rowsOf(derived.analysis.form.phrases, width).filter((row) => inView.has(row.from));
      // What cannot be drawn is told by its row, which asks for it too.
      for (const row of rows) drawAhead(rowSheet(sheet, row), width).catch(() => {});
    };
    bench.setState({ ahead });
    return () => bench.setState({ ahead: () => {} });
  }, [bench, width, lens, look, inView]);
  return inView;
}

/** All phrases, a row each; on narrow screens two bars a row. */
export function Rows({ drawings, usual }: { drawings: Record<string, Drawing>; usual: Room }) {
  const { box, room } = useRoom(usual);
  const { lens } = useLens();
  // While the ear is asked, its answer is not on the staff.
  const asked = useBench((s) => s.trying) && lens === "Harmony";
  const staves: Lens = asked ? "Tune" : lens;
  const bench = useBenchStore();
  const derived = useBench((s) => s.derived);
  const shown = useBench((s) => s.shown);
  const hand = useBench((s) => s.hand);
  const strumDrawn = useBench((s) => s.strumDrawn);
  const handShown = useBench((s) => (s.page === "Hands" ? s.handShown : null));
  const evening = useBench((s) => s.evening);
  const look = useMemo(
    () => ({ shown, hand, strumDrawn, handShown, evening }),
    [shown, hand, strumDrawn, handShown, evening],
  );
  // Drawn from what is derived, not from the work that is ahead of it.
  // The bows follow what is chosen for them at once.
  const feel = useBench((s) => (staves === "Feel" ? s.work.feel : null));
  const hands = useBench((s) => (staves === "Tune" ? s.work.hands : undefined));
  // biome-ignore lint/correctness/useExhaustiveDependencies: `feel` and `hands` stand for what is taken of the work
  const sheet = useMemo(
    () => benchSheet(bench.getState().work, derived, staves, look),
    [bench, derived, staves, look, feel, hands],
  );
  const { phrases } = derived.analysis.form;
  const size = sizeOf(phrases, room, staves, sheet);
  const width = drawnWidth(room, size);
  const inView = useDrawnAhead(width, staves, look);
  const rows = useMemo(() => rowsOf(phrases, width), [phrases, width]);
  return (
    <Box ref={box} pb="6">
      {rows.map((row) => (
        <Row key={row.from} row={row} sheet={sheet} width={width} size={size} drawings={drawings} inView={inView} />
      ))}
    </Box>
  );
}
