"use client";
import { Button, Flex, Text } from "@chakra-ui/react";
import type { Derived } from "../../../core/ensemble";
import type { HarmonyNote } from "../../../core/harmony";
import { beatAt, beatsWords, type Place } from "../../../core/score";
import { intervalName, type Pitch, pitchName } from "../../../core/theory";
import { Block, ChoiceRow, Key, PanelHead, Tile } from "./parts";

const sign = (name: string) => name.replace("b", "♭").replace("#", "♯");

type Props = {
  note: HarmonyNote;
  derived: Derived;
  side: "below" | "above";
  onTake: (pitch: Pitch | null) => void;
  onLock: () => void;
  onHear: () => void;
};

/** Why the line takes this note, what else it could take, and the lock. */
export function NotePanel({ note, derived, side, onTake, onLock, onHear }: Props) {
  const place = derived.analysis.places[note.bar] as Place;
  const title = note.pitch
    ? `${sign(pitchName(note.pitch))}${note.interval && note.interval > 1 ? `, a ${intervalName(note.interval)} ${side}` : ""}`
    : "A rest";
  const name = (pitch: Pitch | null) => (pitch ? sign(pitchName(pitch)) : "rest");
  return (
    <>
      <PanelHead
        title={title}
        sub={`bar ${place.number}, beat ${beatsWords(beatAt(place, note.at))} · ${derived.line.school}${note.locked ? " · locked" : ""}`}
      />
      <Text mb="12px">{note.reason}</Text>
      <Flex gap="6px" wrap="wrap">
        {note.melody && <Tile name={sign(pitchName(note.melody))} what="melody" />}
        {note.chord && <Tile name={sign(note.chord)} what="chord" />}
        {note.pitch && <Tile name={note.rule} what="the rule" />}
      </Flex>
      {(note.alternatives.length > 0 || note.locked) && (
        <Block
          title={
            note.locked
              ? "Free it to see what else it could be"
              : "Other notes, with what the whole line would cost more"
          }
        >
          <ChoiceRow
            name={name(note.pitch)}
            worth={1}
            note={note.locked ? "locked" : "best"}
            keyName="1"
            chosen
            onTake={() => onTake(note.pitch)}
          />
          {note.alternatives.slice(0, 5).map((a, i) => (
            <ChoiceRow
              key={name(a.pitch)}
              name={`${name(a.pitch)}${a.interval ? ` · ${a.interval}` : ""}`}
              worth={Math.exp(-a.cost / 3)}
              note={`+${a.cost.toFixed(1)}`}
              keyName={i < 3 ? String(i + 2) : undefined}
              onTake={() => onTake(a.pitch)}
            />
          ))}
        </Block>
      )}
      <Text mt="12px" color="quiet">
        Clash in this bar: {derived.line.clashes[note.bar] ?? 0} of 100.
      </Text>
      <Flex gap="8px" mt="8px">
        <Button variant="plain" px="4px" color="ink" onClick={onLock}>
          <Key>L</Key> {note.locked ? "unlock it" : "lock it"}
        </Button>
        <Button variant="plain" px="4px" color="ink" onClick={onHear}>
          <Key>H</Key> hear the bar
        </Button>
      </Flex>
    </>
  );
}
