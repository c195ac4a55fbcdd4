"use client";
import { Box } from "@chakra-ui/react";
import { memo } from "react";
import type { HarmonyLine } from "../../core/harmony";
import type { Place } from "../../core/score";
import { diatonic, scaleStep } from "../../core/theory";
import type { Measured } from "../engraving/measure";

type Props = { line: HarmonyLine; places: readonly Place[]; measured: Measured; numbers: boolean; ghost: boolean };

/**
 * Marks on the second staff: a peg at notes the teacher has settled, interval numbers under the notes, and a hollow
 * ring where the plain third would lie.
 */
export const LineMarks = memo(function LineMarks({ line, places, measured, numbers, ghost }: Props) {
  return (
    <>
      {line.notes.map((note) => {
        const staff = measured.staves.find((s) => s.bar === note.bar && s.staff === "moving");
        const place = places.find((p) => p.index === note.bar);
        const x = staff?.notes.find((n) => n.event === note.event)?.x;
        if (!staff || !place || x === undefined) return null;
        const step = (staff.bottom - staff.top) / 8;
        const third =
          note.melody && note.pitch && !line.own[note.bar]
            ? scaleStep(note.melody, line.side === "below" ? -2 : 2, place.key)
            : null;
        const away = third && note.pitch ? diatonic(third) - diatonic(note.pitch) : 0;
        const head = staff.heads.get(note.event);
        const lowest = Math.max(
          staff.bottom,
          ...measured.staves.filter((s) => s.staff === "moving").flatMap((s) => [...s.heads.values()]),
        );
        return (
          <Box key={`${note.bar}.${note.event}`} position="absolute" pointerEvents="none" style={{ left: x, top: 0 }}>
            {note.locked && (
              <Box
                position="absolute"
                w="6px"
                h="6px"
                borderRadius="1px"
                bg="madder"
                style={{ left: -3, top: staff.top - 10 }}
              />
            )}
            {numbers && note.interval !== null && (
              <Box
                position="absolute"
                w="10px"
                textAlign="center"
                fontSize="12px"
                lineHeight="12px"
                color="quiet"
                bg="fleece"
                borderRadius="2px"
                style={{ left: -5, top: lowest + 8 }}
              >
                {note.interval}
              </Box>
            )}
            {ghost && away !== 0 && head !== undefined && (
              <Box
                position="absolute"
                w="10px"
                h="7px"
                borderRadius="50%"
                border="1.5px solid"
                borderColor="heather"
                opacity={0.75}
                style={{ left: 4, top: head - away * step - 3.5 }}
                title="where the plain third would be"
              />
            )}
          </Box>
        );
      })}
    </>
  );
});
