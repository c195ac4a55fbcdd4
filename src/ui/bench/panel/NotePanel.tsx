"use client";
import { Flex, Text } from "@chakra-ui/react";
import type { HarmonyNote } from "../../../core/harmony";
import { barLabel, momentWords, type Place } from "../../../core/score";
import { anInterval, type Pitch, pitchName } from "../../../core/theory";
import { KeyButton } from "../../controls/buttons";
import { signed, signedText } from "../../signs";
import { chosenNote, useBench } from "../state";
import { Block, ChoiceBar, Key, nearness, PanelHead, Tile } from "./parts";

/** How a bar's two lines get on, in a word. */
const BARS: readonly [below: number, word: string][] = [
  [20, "calm"],
  [30, "lightly spiced"],
  [50, "rough"],
];
const barWords = (clash: number): string => BARS.find(([below]) => clash < below)?.[1] ?? "harsh";

const named = (pitch: Pitch | null) => (pitch ? signed(pitchName(pitch)) : "rest");
/** Runners-up shown, and those that have a key. */
const SHOWN = 5;
const KEYED = 3;

function titleOf({ pitch, interval }: HarmonyNote, side: string): string {
  if (!pitch) return "A rest";
  return interval && interval > 1 ? `${named(pitch)}, ${anInterval(interval)} ${side}` : named(pitch);
}

const standingWords = ({ locked, kept }: HarmonyNote): string => {
  if (kept) return " · yours, unlocked";
  return locked ? " · locked" : "";
};

/** Why the line takes this note, what else it could take, and the lock. */
export function NotePanel({ note }: { note: HarmonyNote }) {
  const line = useBench((s) => chosenNote(s)?.line);
  const place = useBench((s) => s.derived.analysis.places[note.bar] as Place);
  const take = useBench((s) => s.takeNote);
  const toggle = useBench((s) => s.toggleNoteLock);
  const hear = useBench((s) => s.hear);
  const anew = useBench((s) => s.planNoteAnew);
  if (!line) return null;
  const bar = place.pickup ? "pickup" : `bar ${barLabel(place)}`;
  const where = `${bar}, ${momentWords(place, note.at)}`;
  return (
    <>
      <PanelHead title={titleOf(note, line.side)} sub={`${where} · ${line.school}${standingWords(note)}`} />
      <Text mb="12px">{signedText(note.reason)}</Text>
      <Flex gap="6px" wrap="wrap">
        {note.melody && <Tile name={named(note.melody)} what="melody" />}
        {note.chord && <Tile name={signed(note.chord)} what="chord" />}
        {note.pitch && <Tile name={note.rule} what="the rule" />}
      </Flex>
      {(note.alternatives.length > 0 || note.locked || note.kept) && (
        <Block title="Other notes, the nearest first">
          <ChoiceBar
            name={named(note.pitch)}
            worth={1}
            note={note.locked || note.kept ? "yours" : "best"}
            keyName="1"
            chosen
            onTake={() => take(note.pitch)}
          />
          {note.alternatives.slice(0, SHOWN).map((a, i) => (
            <ChoiceBar
              key={named(a.pitch)}
              name={`${named(a.pitch)}${a.interval ? ` · ${a.interval}` : ""}`}
              worth={Math.exp(-Math.max(0, a.cost) / 3)}
              note={nearness(a.cost)}
              price={a.cost}
              keyName={i < KEYED ? String(i + 2) : undefined}
              onTake={() => take(a.pitch)}
            />
          ))}
        </Block>
      )}
      <Text mt="12px" color="quiet" title={`clash ${line.clashes[note.bar] ?? 0} of 100`}>
        With the tune this bar is {barWords(line.clashes[note.bar] ?? 0)}.
      </Text>
      <Flex gap="8px" mt="8px" wrap="wrap">
        <KeyButton onClick={toggle}>
          <Key>L</Key> {note.locked ? "unlock it" : "lock it"}
        </KeyButton>
        <KeyButton onClick={() => hear(note.bar, note.bar)}>
          <Key>H</Key> hear the bar
        </KeyButton>
        {(note.locked || note.kept) && (
          <KeyButton onClick={anew}>
            <Key>A</Key> work it out anew
          </KeyButton>
        )}
      </Flex>
    </>
  );
}
