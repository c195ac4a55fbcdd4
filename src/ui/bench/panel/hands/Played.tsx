"use client";
import { Box, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { arrangedFor, changeHand, handFor, handId } from "../../../../core/ensemble";
import { type Instrument, LEVELS } from "../../../../core/instruments";
import { blown, KINDS, threeToFind } from "../../../../core/technique";
import { pitchName } from "../../../../core/theory";
import { LineButton } from "../../../controls/buttons";
import { Picker } from "../../../controls/Choice";
import { signed } from "../../../signs";
import { useBench } from "../../state";
import { Copies } from "../Copies";
import { Block } from "../parts";
import { NoteByNote } from "./NoteByNote";
import { Settings } from "./Settings";

const NOT = "not shown";
const WORDS: Record<string, string> = {
  melody: "where its notes lie",
  "double stops": "with double stops",
  "melody with chords": "with chords under it",
  roll: "in a roll",
};

/** Three double stops of the key to find before the tune begins, with what the finger does to make them ring. */
function Three({ on }: { on: Instrument }) {
  const work = useBench((s) => s.work);
  const derived = useBench((s) => s.derived);
  const made = arrangedFor(work, derived, handFor(work, on.name));
  const found = made ? threeToFind(made.board, derived.analysis.key.key) : [];
  if (found.length === 0) return null;
  return (
    <Box mt="8px" fontSize="14px">
      <Text fontSize="13px" color="quiet">
        Find these three before you start
      </Text>
      {found.map(({ low, high, strings, fingers, words }) => (
        <Text key={`${pitchName(low)} ${pitchName(high)}`} mb="2px">
          <b>
            {signed(pitchName(low))} and {signed(pitchName(high))}
          </b>{" "}
          (string {strings[0]} open, string {strings[1]} finger {fingers[1]}). {words}
        </Text>
      ))}
    </Box>
  );
}

/** Rolls are for what has a thumb string. */
const kindsFor = (on: Instrument) => KINDS.filter((k) => k !== "roll" || on.strings.some((s) => s.shortFrom));

/** How the tune is played on a strung instrument, under the staff: what of it, for whom, and why, bar by bar. */
export function Played({ on }: { on: Instrument }) {
  const work = useBench((s) => s.work);
  const change = useBench((s) => s.change);
  const shown = useBench((s) => s.handShown === on.name);
  const setShown = useBench((s) => s.setHandShown);
  const hand = handFor(work, on.name);
  const open = work.tune.rights !== "unknown";
  if (on.strings.length === 0) return <Made on={on} />;
  return (
    <Block title={on.frets ? "Tablature under the staff" : "Fingers under the staff"}>
      <Picker
        label="Shown under the staff"
        of={[NOT, ...kindsFor(on).map((k) => ({ value: k, words: WORDS[k] ?? k }))]}
        now={shown ? hand.kind : NOT}
        onTake={(kind) => {
          setShown(kind === NOT ? null : on.name);
          if (kind !== NOT) change(`On the ${on.name}: ${kind}`, (w) => changeHand(w, on.name, { kind }));
        }}
      />
      {shown && (
        <>
          <Settings on={on} />
          {hand.kind === "double stops" && !on.frets && <Three on={on} />}
          <NoteByNote on={on} />
          <Copies part={handId(on.name)} open={open} name={`the ${on.name}`} />
        </>
      )}
    </Block>
  );
}

/** What is shown of an instrument without strings: its holes, or its rows and bellows; nothing of others. */
const SHOWS: readonly (readonly [ends: string, words: string])[] = [
  ["whistle", "its holes under the staff"],
  ["accordion B/C", "rows and bellows under the staff"],
  ["accordion D/G", "rows and bellows under the staff"],
];

/** How the tune is made on an instrument without strings, for which level, and what it does not have. */
function Made({ on }: { on: Instrument }) {
  const places = useBench((s) => s.derived.analysis.places);
  const level = useBench((s) => handFor(s.work, on.name).level);
  const shown = useBench((s) => s.handShown === on.name);
  const setShown = useBench((s) => s.setHandShown);
  const change = useBench((s) => s.change);
  const own = LEVELS.find((l) => l === level) ?? LEVELS[2];
  const { leftOut } = useMemo(() => blown(places, on, own), [places, on, own]);
  const words = SHOWS.find(([ends]) => on.name.endsWith(ends))?.[1];
  return (
    <Block title="How it is played">
      <Picker
        label="For which level"
        of={[...LEVELS]}
        now={own}
        onTake={(l) => change(`For ${l}`, (w) => changeHand(w, on.name, { level: l }))}
      />
      {words && (
        <LineButton size="xs" mt="6px" aria-pressed={shown} onClick={() => setShown(shown ? null : on.name)}>
          {words}
        </LineButton>
      )}
      {leftOut.map((said) => (
        <Text key={said} fontSize="13px" color="madder" mt="3px">
          {said}
        </Text>
      ))}
    </Block>
  );
}
