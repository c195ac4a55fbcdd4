"use client";
import { Box } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Drawing } from "../../engraving";
import type { Derived } from "../../core/ensemble";
import { benchSheet, GUTTER, type Lens, rowSheet, rowsOf, WIDTH_COOKIE } from "./layout";
import { Row } from "./Row";
import { useBench, useBenchStore } from "./state";
import { drawAhead } from "./useDrawn";
import { useLens } from "./useLens";

/** Under this width of the window the gutter stands over its row. */
const STACKED = 768;
const COOKIE_AGE = 60 * 60 * 24 * 365;

/**
 * The width of a row's music: what the server laid out for, until it is measured; then remembered for the next page.
 */
function useRowWidth(usual: number) {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(usual);
  useEffect(() => {
    const measure = () => {
      const found = Math.floor((box.current?.clientWidth ?? 0) - (window.innerWidth < STACKED ? 0 : GUTTER));
      if (found < 100) return;
      setWidth(found);
      // biome-ignore lint/suspicious/noDocumentCookie: the server reads it to draw the next page's rows at this width
      document.cookie = `${WIDTH_COOKIE}=${found}; path=/; max-age=${COOKIE_AGE}; samesite=strict`;
    };
    measure();
    const observer = new ResizeObserver(measure);
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  return { box, width };
}

/**
 * Draws the rows in view as soon as there is something new to see in them, while React is still at work on the rest.
 * Gives the set that rows in view put themselves into, by their first bar.
 */
function useDrawnAhead(width: number, lens: Lens, shown: string): Set<number> {
  const bench = useBenchStore();
  const [inView] = useState(() => new Set<number>());
  useEffect(() => {
    const ahead = (derived: Derived) => {
      const sheet = benchSheet(bench.getState().work, derived, lens, shown);
      const rows = rowsOf(derived.analysis.form.phrases, width).filter((row) => inView.has(row.from));
      // What cannot be drawn is told by its row, which asks for it too.
      for (const row of rows) drawAhead(rowSheet(sheet, row), width).catch(() => {});
    };
    bench.setState({ ahead });
    return () => bench.setState({ ahead: () => {} });
  }, [bench, width, lens, shown, inView]);
  return inView;
}

/** All phrases, a row each; on narrow screens two bars a row. */
export function Rows({ drawings, usual }: { drawings: Record<string, Drawing>; usual: number }) {
  const { box, width } = useRowWidth(usual);
  const { lens } = useLens();
  // While the ear is asked, its answer is not on the staff.
  const asked = useBench((s) => s.trying) && lens === "Harmony";
  const staves: Lens = asked ? "Tune" : lens;
  const bench = useBenchStore();
  const derived = useBench((s) => s.derived);
  const shown = useBench((s) => s.shown);
  // Drawn from what is derived, not from the work that is ahead of it.
  const sheet = useMemo(
    () => benchSheet(bench.getState().work, derived, staves, shown),
    [bench, derived, staves, shown],
  );
  const inView = useDrawnAhead(width, staves, shown);
  const rows = useMemo(() => rowsOf(derived.analysis.form.phrases, width), [derived.analysis, width]);
  return (
    <Box ref={box} pb="6">
      {rows.map((row) => (
        <Row key={row.from} row={row} sheet={sheet} width={width} drawings={drawings} inView={inView} />
      ))}
    </Box>
  );
}
