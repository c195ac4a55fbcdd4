"use client";
import { Box } from "@chakra-ui/react";
import { memo } from "react";
import type { Instrument } from "../../core/instruments";
import type { Place } from "../../core/score";
import { nameOf, type Spelling } from "../../core/spelling";
import type { Measured } from "../../engraving";

type Props = { places: readonly Place[]; measured: Measured | null; spelling: Spelling; on: Instrument };

/**
 * The notes by name under the staff, each under its head, with the string where it changes; what the instrument cannot
 * play is struck out.
 */
export const NameLane = memo(function NameLane({ places, measured, spelling, on }: Props) {
  let last: number | undefined;
  const names = places.flatMap((place) =>
    place.bar.events.flatMap((event, e) => {
      const pitch = event.pitches[event.pitches.length - 1];
      const x = measured?.notes.get(`${place.index}.${e}`);
      if (!pitch || x === undefined) return [];
      const named = nameOf(pitch, spelling, { key: place.key, on });
      const changed = named.string !== undefined && named.string !== last;
      last = named.string ?? last;
      return [{ id: `${place.index}.${e}`, x, changed, ...named }];
    }),
  );
  const strings = names.some((n) => n.stringName);
  return (
    <Box position="relative" h={strings ? "36px" : "20px"} aria-label={`Notes as ${spelling}`} data-names>
      {names.map((n) => (
        <Box
          key={n.id}
          position="absolute"
          top="0"
          transform="translateX(-50%)"
          textAlign="center"
          whiteSpace="nowrap"
          title={n.playable ? undefined : `Not on the ${on.name} in first position`}
          style={{ left: n.x }}
        >
          {strings && (
            <Box as="span" display="block" h="15px" fontSize="12px" lineHeight="15px" fontWeight="700" color="woad">
              {n.changed ? n.stringName : ""}
            </Box>
          )}
          <Box
            as="span"
            display="block"
            fontSize="13px"
            lineHeight="17px"
            fontWeight="600"
            color={n.playable ? "ink" : "madder"}
          >
            {n.playable ? n.text : "✕"}
          </Box>
        </Box>
      ))}
    </Box>
  );
});
