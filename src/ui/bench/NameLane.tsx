"use client";
import { Box } from "@chakra-ui/react";
import { memo } from "react";
import type { Instrument } from "../../core/instruments";
import type { Place } from "../../core/score";
import { nameOf, type Spelling } from "../../core/spelling";
import type { Measured } from "../engraving/measure";

type Props = { places: readonly Place[]; measured: Measured | null; spelling: Spelling; on: Instrument };

/** The notes by name under the staff, each under its head; what the instrument cannot play is struck in madder. */
export const NameLane = memo(function NameLane({ places, measured, spelling, on }: Props) {
  let lastString: number | undefined;
  let right = -99;
  const names = places.flatMap((place) => place.bar.events.flatMap((event, e) => {
    const pitch = event.pitches[event.pitches.length - 1];
    const x = measured?.notes.get(`${place.index}.${e}`);
    if (!pitch || x === undefined) return [];
    const named = nameOf(pitch, spelling, { key: place.key, on, lastString });
    lastString = named.string ?? lastString;
    const half = 4 + named.text.length * 3.4;
    const low = x - half < right;
    if (!low) right = x + half;
    return [{ id: `${place.index}.${e}`, x, low, ...named }];
  }));
  return (
    <Box position="relative" h={names.some((n) => n.low) ? "34px" : "20px"} aria-label={`Notes as ${spelling}`} data-names>
      {names.map((n) => (
        <Box key={n.id} as="span" position="absolute" transform="translateX(-50%)" fontSize="13px" lineHeight="17px" fontWeight="600" whiteSpace="nowrap" color={n.playable ? "ink" : "madder"} title={n.playable ? undefined : `Not on the ${on.name} in first position`} style={{ left: n.x, top: n.low ? 15 : 0 }}>
          {n.playable ? n.text : "✕"}
        </Box>
      ))}
    </Box>
  );
});
