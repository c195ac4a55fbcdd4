"use client";
import { Box } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Drawing } from "../../server/drawings";
import { benchSheet, GUTTER, rowsOf, WIDTH_COOKIE } from "./layout";
import { Row } from "./Row";
import { useBench } from "./state";
import { useLens } from "./useLens";

/** Under this width of the window the gutter stands over its row. */
const STACKED = 768;
const COOKIE_AGE = 60 * 60 * 24 * 365;

/** The width of a row's music: what the server laid out for, until it is measured; then remembered for the next page. */
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

/** All phrases, a row each; on narrow screens two bars a row. */
export function Rows({ drawings, usual }: { drawings: Record<string, Drawing>; usual: number }) {
  const { box, width } = useRowWidth(usual);
  const { lens } = useLens();
  const work = useBench((s) => s.work);
  const derived = useBench((s) => s.derived);
  const shown = useBench((s) => s.shown);
  const sheet = useMemo(() => benchSheet(work, derived, lens, shown), [work, derived, lens, shown]);
  const rows = useMemo(() => rowsOf(derived.analysis.form.phrases, width), [derived.analysis, width]);
  return (
    <Box ref={box} pb="6">
      {rows.map((row) => (
        <Row key={row.from} row={row} sheet={sheet} width={width} drawings={drawings} />
      ))}
    </Box>
  );
}
