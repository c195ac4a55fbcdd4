"use client";
import { Box, Text } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import { places, slice, tuneSheet, type Tune } from "../../core/score";
import type { CleanSvg } from "../../engraving";
import { engraveRow } from "../../workers/engrave";
import { wordsOf } from "../answered";
import { LinkButton } from "../controls/buttons";
import { Engraving } from "./Engraving";

/** Bars to a row. */
const ROW = 4;

/** A tune's notes as they will look, row by row, drawn again when it changes; at most `rows` rows. */
export function Preview({ tune, rows = 8, perRow = ROW }: { tune: Tune; rows?: number; perRow?: number }) {
  const box = useRef<HTMLDivElement>(null);
  const [drawn, setDrawn] = useState<CleanSvg[]>([]);
  const [failure, setFailure] = useState("");
  const [attempt, setAttempt] = useState(0);
  const [width, setWidth] = useState(0);
  useEffect(() => setWidth(Math.floor(box.current?.clientWidth ?? 0)), []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another attempt is asked for by its number
  useEffect(() => {
    if (width < 100) return;
    let current = true;
    const from = places(tune);
    const sheet = tuneSheet(tune, from);
    const lead = from[0]?.pickup ? 1 : 0;
    const starts = [0, ...Array.from({ length: Math.ceil(from.length / perRow) }, (_, i) => (i + 1) * perRow + lead)]
      .filter((s) => s < from.length)
      .slice(0, rows);
    Promise.all(
      starts.map((s, i) =>
        engraveRow(slice(sheet, s, starts[i + 1] ?? Math.min(from.length, s + perRow + (i === 0 ? lead : 0))), width),
      ),
    ).then(
      (all) => {
        if (current) setDrawn(all.map((d) => d.svg));
        if (current) setFailure("");
      },
      (error: unknown) => current && setFailure(wordsOf(error)),
    );
    return () => {
      current = false;
    };
  }, [tune, width, rows, perRow, attempt]);
  return (
    <Box ref={box} data-preview>
      {failure && (
        <Text role="alert" color="madder">
          {failure}{" "}
          <LinkButton tone="madder" onClick={() => setAttempt(attempt + 1)}>
            try again
          </LinkButton>
        </Text>
      )}
      {drawn.map((svg, row) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rows in order
        <Engraving key={row} svg={svg} />
      ))}
    </Box>
  );
}
