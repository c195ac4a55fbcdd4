"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { type Inventory, inventory, type Sounding } from "../../../../core/analysis";
import { arrangedFor, handFor, transposed } from "../../../../core/ensemble";
import { type Instrument, isPitched } from "../../../../core/instruments";
import { beatTicks, lengthWords } from "../../../../core/score";
import { moveBetween, SPELLINGS, type Spelling, stringMove, tonics } from "../../../../core/spelling";
import { type Lie, lieIn, lieOn, secondFingerWords } from "../../../../core/technique";
import { className, pitchName } from "../../../../core/theory";
import { LineButton } from "../../../controls/buttons";
import { Picker } from "../../../controls/Choice";
import { counted, signed } from "../../../signs";
import { useBench } from "../../state";
import { useInstruments } from "../../useInstruments";
import { useNaming } from "../../useNaming";
import { Fingerboard } from "./Fingerboard";
import { Block, PanelHead } from "../parts";
import { Played } from "./Played";

const named = ({ pitch }: Sounding) => signed(pitchName(pitch));
/** Rhythms of beats that are listed, and the widest bar in pixels. */
const CELLS_SHOWN = 4;
const WIDEST = 170;

/** Spellings an instrument can be named by: strings need strings, tablature frets, finger numbers none. */
function spellingsFor(on: Instrument): Spelling[] {
  const fits: Partial<Record<Spelling, boolean>> = {
    "string and finger": on.strings.length > 0 && on.hand !== "frets",
    tablature: on.strings.length > 0 && on.hand === "frets",
  };
  return SPELLINGS.filter((s) => fits[s] ?? true);
}

/** What a hand meets in the tune, a sentence each. */
function factsOf(found: Inventory, lie: Lie, on: Instrument): string[] {
  const { lowest, highest } = found;
  const from = lowest && highest ? `, from ${signed(pitchName(lowest))} to ${signed(pitchName(highest))}` : "";
  const second = on.hand === "violin" ? secondFingerWords(lie) : "";
  const leaps = `${counted(found.leaps, "leap")} of a fourth or more.`;
  const crossings = on.strings.length ? `${counted(lie.crossings, "string crossing")}, ` : "";
  const free = lie.free.length < on.strings.length ? lie.free : [];
  const outside = found.outside.map((o) => `${signed(o.name)} ${o.count}×`).join(", ");
  return [
    `${found.pitches.length} different notes, ${found.notes} in all${from}.`,
    second ? `${second[0]?.toUpperCase()}${second.slice(1)}.` : "",
    free.length ? `Free for a drone: ${free.map((p) => signed(className(p))).join(", ")}.` : "",
    `${crossings}${leaps}`,
    found.held
      ? `${counted(found.held, "held note")}, longer than a beat and a half.`
      : "No note is held longer than a beat and a half.",
    outside ? `Outside the key: ${outside}.` : "Every note is in the key.",
    soundingWords(found, on),
  ].filter(Boolean);
}

/** Written and sounding names, where they differ. */
function soundingWords({ lowest }: Inventory, { transposition }: Instrument): string {
  if (transposition === 0 || !lowest) return "";
  const sounds = pitchName({ ...lowest, octave: lowest.octave + transposition / 12 });
  return `Written ${signed(pitchName(lowest))} sounds ${signed(sounds)} on it.`;
}

/** How the tune lies under the hand of one instrument, how its notes are named, and where else it could lie. */
export function HandsPanel() {
  const places = useBench((s) => s.derived.analysis.places);
  const { on: own, read: on } = useNaming();
  const found = inventory(places);
  const made = useBench((s) => arrangedFor(s.work, s.derived, handFor(s.work, own.name)));
  const lie = made ? lieIn(made, places) : lieOn(on, places);
  const outOfReach = [...lie.tooLow, ...lie.tooHigh];
  return (
    <>
      <PanelHead title="Under the hand" />
      <Naming />
      {on.strings.length > 0 ? <Fingerboard on={own} lie={lie} /> : <Notes found={found} beyond={outOfReach} />}
      {outOfReach.length > 0 && (
        <Text mt="8px" color="madder">
          Out of reach on the {on.name}: {outOfReach.map(named).join(", ")}. Move the tune below.
        </Text>
      )}
      <Box mt="10px">
        {factsOf(found, lie, on).map((f) => (
          <Text key={f} fontSize="14px" mb="3px">
            {f}
          </Text>
        ))}
      </Box>
      <Played on={own} />
      <Cells found={found} />
      <Move on={on} />
    </>
  );
}

function Naming() {
  const { on, spelling, setInstrument, setSpelling } = useNaming();
  return (
    <Flex gap="8px" mb="10px">
      <Picker
        width="calc(50% - 4px)"
        label="Instrument"
        of={useInstruments()
          .filter(isPitched)
          .map((i) => i.name)}
        now={on.name}
        onTake={setInstrument}
      />
      <Picker
        width="calc(50% - 4px)"
        label="Name the notes by"
        of={[{ value: "", words: "no names" }, ...spellingsFor(on)]}
        now={spelling ?? ""}
        onTake={(name) => setSpelling(SPELLINGS.find((s) => s === name) ?? null)}
      />
    </Flex>
  );
}

/** The tune's notes from high to low, each as long as it sounds in all: for instruments without strings. */
function Notes({ found, beyond }: { found: Inventory; beyond: readonly Sounding[] }) {
  const metre = useBench((s) => s.work.tune.metre);
  const longest = Math.max(...found.pitches.map((p) => p.ticks), 1);
  const beats = (ticks: number) => Math.round((ticks / beatTicks(metre)) * 10) / 10;
  return [...found.pitches].reverse().map((p) => (
    <Flex key={pitchName(p.pitch)} align="center" gap="8px" h="19px" fontSize="13px">
      <Text w="36px">{named(p)}</Text>
      <Box
        h="9px"
        borderRadius="2px"
        bg={beyond.some((o) => o.pitch === p.pitch) ? "madder" : "woad"}
        w={`${(p.ticks / longest) * WIDEST}px`}
      />
      <Text color="quiet">{beats(p.ticks)} beats</Text>
    </Flex>
  ));
}

/** The commonest rhythms of a beat, drawn to length. */
function Cells({ found }: { found: Inventory }) {
  const metre = useBench((s) => s.work.tune.metre);
  const words = (lengths: readonly number[]) =>
    lengths.map((l) => lengthWords(Math.round(l * beatTicks(metre)))).join(", ");
  if (found.cells.length === 0) return null;
  return (
    <Block title="Rhythm of its beats">
      {found.cells.slice(0, CELLS_SHOWN).map(({ lengths, count }) => (
        <Flex key={lengths.join()} align="center" gap="8px" h="20px" fontSize="13px" title={words(lengths)}>
          <Flex w="110px" h="10px" gap="1px" flexShrink={0} overflow="hidden">
            {lengths.map((l, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: lengths of one beat, in order
              <Box key={i} bg="walnut" h="10px" borderRadius="1px" style={{ flex: `${l} 1 0` }} />
            ))}
          </Flex>
          <Text color="quiet">{counted(count, "beat")}</Text>
        </Flex>
      ))}
    </Block>
  );
}

function Move({ on }: { on: Instrument }) {
  const { tonic, mode } = useBench((s) => s.derived.analysis.key.key);
  const change = useBench((s) => s.change);
  const move = (step: string, by: ReturnType<typeof moveBetween>) => change(step, (w) => transposed(w, by));
  const [up, down] = [stringMove(on, "up"), stringMove(on, "down")];
  const to = (t: string) => ({ value: t, words: t === tonic ? `in ${signed(t)}, as it is` : `to ${signed(t)}` });
  return (
    <Block title="Move the tune">
      <Flex gap="6px" wrap="wrap" align="center">
        <Picker
          label="To the key of"
          width="128px"
          of={[...new Set([tonic, ...tonics(tonic)])].map(to)}
          now={tonic}
          onTake={(t) => move(`Moved to ${t} ${mode}`, moveBetween(tonic, t))}
        />
        {down && <LineButton onClick={() => move("Fingering moved a string down", down)}>a string lower</LineButton>}
        {up && <LineButton onClick={() => move("Fingering moved a string up", up)}>a string higher</LineButton>}
      </Flex>
      <Text fontSize="13px" color="quiet" mt="4px">
        Notes, chords and all you have settled move together.
      </Text>
    </Block>
  );
}
