"use client";
import { Box } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import { places, slice, tuneSheet, type Tune } from "../../core/score";
import { startEngraver } from "../../workers/engrave";

/** Bars to a row. */
const ROW = 4;

/** A tune's notes as they will look, row by row, drawn again when it changes; at most `rows` rows. */
export function Preview({ tune, rows = 8, perRow = ROW }: { tune: Tune; rows?: number; perRow?: number }) {
  const box = useRef<HTMLDivElement>(null);
  const [drawn, setDrawn] = useState<string[]>([]);
  const [width, setWidth] = useState(0);
  useEffect(() => setWidth(Math.floor(box.current?.clientWidth ?? 0)), []);
  useEffect(() => {
    if (width < 100) return;
    let current = true;
    const from = places(tune);
    const sheet = tuneSheet(tune, from);
    const lead = from[0]?.pickup ? 1 : 0;
    const starts = [0, ...Array.from({ length: Math.ceil(from.length / perRow) }, (_, i) => (i + 1) * perRow + lead)]
      .filter((s) => s < from.length)
      .slice(0, rows);
    void Promise.all(
      starts.map((s, i) =>
        startEngraver().row(
          slice(sheet, s, starts[i + 1] ?? Math.min(from.length, s + perRow + (i === 0 ? lead : 0))),
          width,
        ),
      ),
    ).then((all) => {
      if (current) setDrawn(all.map((d) => d.svg));
    });
    return () => {
      current = false;
    };
  }, [tune, width, rows, perRow]);
  return (
    <Box ref={box} data-preview>
      {drawn.map((svg, row) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rows in order
        // biome-ignore lint/security/noDangerouslySetInnerHtml: the engraver's own SVG, made from escaped text
        <div key={row} data-engraving dangerouslySetInnerHTML={{ __html: svg }} />
      ))}
    </Box>
  );
}
