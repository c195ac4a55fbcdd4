"use client";
import { Button, Flex, Text } from "@chakra-ui/react";
import type { Derived } from "../../../core/ensemble";
import type { HarmonyNote } from "../../../core/harmony";
import { beatAt, beatsWords, type Place } from "../../../core/score";
import { intervalName, pitchName } from "../../../core/theory";
import { Key, PanelHead, Tile } from "./parts";

const sign = (name: string) => name.replace("b", "♭").replace("#", "♯");

/** Why the line takes this note. */
export function NotePanel({ note, derived, side, onHear }: { note: HarmonyNote; derived: Derived; side: "below" | "above"; onHear: () => void }) {
  const place = derived.analysis.places[note.bar] as Place;
  const title = note.pitch ? `${sign(pitchName(note.pitch))}${note.interval && note.interval > 1 ? `, a ${intervalName(note.interval)} ${side}` : ""}` : "A rest";
  return (
    <>
      <PanelHead title={title} sub={`bar ${place.number}, beat ${beatsWords(beatAt(place, note.at))} · ${derived.line.school}`} />
      <Text mb="12px">{note.reason}</Text>
      <Flex gap="6px" wrap="wrap">
        {note.melody && <Tile name={sign(pitchName(note.melody))} what="melody" />}
        {note.chord && <Tile name={sign(note.chord)} what="chord" />}
        {note.pitch && <Tile name={note.rule} what="the rule" />}
      </Flex>
      <Text mt="12px" color="quiet">Clash in this bar: {derived.line.clashes[note.bar] ?? 0} of 100.</Text>
      <Button mt="8px" variant="plain" px="4px" color="ink" onClick={onHear}><Key>H</Key> hear the bar</Button>
    </>
  );
}
