"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { arrangedFor, changeHand, handFor, settleFinger } from "../../../core/ensemble";
import { type Instrument, LEVELS } from "../../../core/instruments";
import { barLabelAt, momentWords } from "../../../core/score";
import { type ArrangedStroke, blown, KINDS, threeToFind } from "../../../core/technique";
import { pitchName } from "../../../core/theory";
import { LineButton } from "../../controls/buttons";
import { Picker } from "../../controls/Choice";
import { signed } from "../../signs";
import { useBench } from "../state";
import { Block, nearness } from "./parts";

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
          <Flex gap="6px" mt="6px">
            <Picker
              label="For which level"
              of={[...LEVELS]}
              now={hand.level}
              onTake={(level) => change(`For ${level}`, (w) => changeHand(w, on.name, { level }))}
            />
            {on.tunings.length > 1 && (
              <Picker
                label="Tuning of the hand"
                width="142px"
                of={on.tunings.map((t) => t.name)}
                now={hand.tuning ?? on.tunings[0]?.name ?? ""}
                onTake={(tuning) => change(`Tuned ${tuning}`, (w) => changeHand(w, on.name, { tuning }))}
              />
            )}
          </Flex>
          {hand.kind === "double stops" && !on.frets && <Three on={on} />}
          <Why on={on} />
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

/** The strokes of the bar that is looked at: where each note lies and why, and where else it could. */
function Why({ on }: { on: Instrument }) {
  const bar = useBench((s) => s.bar);
  const places = useBench((s) => s.derived.analysis.places);
  const made = useBench((s) => arrangedFor(s.work, s.derived, handFor(s.work, on.name)));
  if (!made) return null;
  const own = made.strokes.filter((s) => s.place.index === bar && s.notes[0]?.role === "melody");
  return (
    <Box mt="8px">
      {made.leftOut.map((words) => (
        <Text key={words} fontSize="13px" color="madder" mb="3px">
          {words}
        </Text>
      ))}
      <Text fontSize="13px" color="quiet" mb="3px">
        {places[bar]?.pickup ? "The pickup" : `Bar ${barLabelAt(places, bar)}`}, note by note
      </Text>
      {own.map((stroke) => (
        <Note key={stroke.at} on={on} stroke={stroke} />
      ))}
    </Box>
  );
}

/** Other places of a note that are offered. */
const OFFERED = 2;

function Note({ on, stroke }: { on: Instrument; stroke: ArrangedStroke }) {
  const change = useBench((s) => s.change);
  const hear = useBench((s) => s.hear);
  const { place, at, reason, alternatives, locked, notes } = stroke;
  const spot = { bar: place.index, at: at - place.at };
  const settle = (to?: { string: number; fret: string }) => {
    change(to ? `String ${to.string}, fret ${to.fret}` : "Fingering freed", (w) => settleFinger(w, on.name, spot, to));
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
            string {a.string}, {a.fret === "0" ? "open" : a.fret} · {nearness(a.cost)}
          </LineButton>
        ))}
      </Flex>
    </Box>
  );
}
