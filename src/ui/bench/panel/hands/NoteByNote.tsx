"use client";
import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import { arrangedFor, handFor, settleFinger, settleFingers } from "../../../../core/ensemble";
import type { Instrument } from "../../../../core/instruments";
import { barLabelAt, momentWords } from "../../../../core/score";
import {
  type ArrangedStroke,
  type Arrangement,
  type Board,
  handText,
  placeLabel,
  readHand,
} from "../../../../core/technique";
import { LineButton } from "../../../controls/buttons";
import { useBench } from "../../state";
import { nearness } from "../parts";

/** The strokes of the bar that is looked at: where each note lies, why, where else it could, and a box to type it. */
export function NoteByNote({ on }: { on: Instrument }) {
  const bar = useBench((s) => s.bar);
  const places = useBench((s) => s.derived.analysis.places);
  const made = useBench((s) => arrangedFor(s.work, s.derived, handFor(s.work, on.name)));
  if (!made) return null;
  const own = made.strokes.filter((s) => s.place.index === bar && s.notes[0]?.role === "melody");
  const title = places[bar]?.pickup ? "The pickup" : `Bar ${barLabelAt(places, bar)}`;
  return (
    <Box mt="8px">
      {[...made.leftOut, ...made.remarks].map((words) => (
        <Text key={words} fontSize="13px" color="madder" mb="3px">
          {words}
        </Text>
      ))}
      <Text fontSize="13px" color="quiet" mb="3px">
        {title}, note by note
      </Text>
      {own.length > 0 && <Typed key={`${bar} ${handText(made.board, own)}`} on={on} made={made} own={own} />}
      {own.map((stroke) => (
        <Note key={stroke.at} on={on} board={made.board} stroke={stroke} />
      ))}
    </Box>
  );
}

type TypedProps = { on: Instrument; made: Arrangement; own: readonly ArrangedStroke[] };

/** The bar as it is typed, string and fret or finger; what is out of reach or sounds another note is told at once. */
function Typed({ on, made, own }: TypedProps) {
  const change = useBench((s) => s.change);
  const hear = useBench((s) => s.hear);
  const bar = useBench((s) => s.bar);
  const now = handText(made.board, own);
  const [text, setText] = useState(now);
  const read = readHand(made.board, own, text);
  const faults = "faults" in read ? read.faults : [];
  const take = () => {
    if ("faults" in read || read.places.length === 0) return;
    const places = read.places.map((p) => ({ bar, ...p }));
    change("Fingering typed", (w) => settleFingers(w, on.name, places));
    hear(bar, bar);
  };
  return (
    <Box
      as="form"
      mb="6px"
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <Flex gap="6px">
        <Input
          size="sm"
          bg="fleece"
          fontFamily="mono"
          borderColor={faults.length > 0 ? "madder" : "cord"}
          aria-label={on.frets ? "Strings and frets of this bar" : "Strings and fingers of this bar"}
          aria-invalid={faults.length > 0}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Escape") setText(now);
          }}
        />
        <LineButton type="submit" disabled={text === now || faults.length > 0}>
          take
        </LineButton>
      </Flex>
      {faults.map(({ order, words }) => (
        <Text key={`${order} ${words}`} fontSize="13px" color="madder" role="alert" mt="2px">
          {words}
        </Text>
      ))}
      <Text fontSize="12px" color="quiet" mt="2px">
        {on.frets
          ? "String:fret, a dash to leave a note."
          : "String and finger, L low, H high, a dash to leave a note."}
      </Text>
    </Box>
  );
}

/** Other places of a note that are offered. */
const OFFERED = 2;

type NoteProps = { on: Instrument; board: Board; stroke: ArrangedStroke };

function Note({ on, board, stroke }: NoteProps) {
  const change = useBench((s) => s.change);
  const hear = useBench((s) => s.hear);
  const { place, at, reason, alternatives, locked, notes } = stroke;
  const spot = { bar: place.index, at: at - place.at };
  const settle = (to?: { string: number; fret: string }) => {
    change(to ? placeLabel(board, to) : "Fingering freed", (w) => settleFinger(w, on.name, spot, to));
    hear(place.index, place.index);
  };
  const [melody] = notes;
  return (
    <Box borderTop="1px solid" borderColor="cord" py="4px" fontSize="14px">
      <Text>
        <Text as="span" color="quiet" fontSize="13px">
          {momentWords(place, at)}:{" "}
        </Text>
        {reason}
      </Text>
      <Flex gap="4px" mt="2px" wrap="wrap">
        {locked && melody && (
          <LineButton size="xs" onClick={() => settle()}>
            free it
          </LineButton>
        )}
        {alternatives.slice(0, OFFERED).map((a) => (
          <LineButton
            key={`${a.string}:${a.fret}`}
            size="xs"
            title={`${a.cost.toFixed(2)} points more in all`}
            onClick={() => settle({ string: a.string, fret: a.fret })}
          >
            {placeLabel(board, a)} · {nearness(a.cost)}
          </LineButton>
        ))}
      </Flex>
    </Box>
  );
}
