"use client";
import { Box, Button, Flex, Input, Slider, Text } from "@chakra-ui/react";
import { useRef, useState } from "react";
import { beatTicks, QUARTER, tempoOf } from "../../../core/score";
import { useBench } from "../state";

/** Felt beats by their ticks, as musicians name them. */
const BEATS: Readonly<Record<number, string>> = {
  [QUARTER / 2]: "eighths",
  [QUARTER]: "quarters",
  [1.5 * QUARTER]: "dotted quarters",
  [2 * QUARTER]: "half notes",
  [3 * QUARTER]: "dotted half notes",
};

type Given = { onGive: (beats: number) => void };

/** The tempo as a number that can be typed over. */
function TempoField({ beats, name, onGive }: Given & { beats: number; name: string }) {
  const [text, setText] = useState(String(beats));
  const dropped = useRef(false);
  const give = () => {
    const wanted = dropped.current ? beats : Number(text);
    dropped.current = false;
    if (Number.isFinite(wanted) && wanted > 0 && wanted !== beats) onGive(wanted);
    setText(String(beats));
  };
  return (
    <Input
      aria-label={name}
      inputMode="numeric"
      size="sm"
      w="56px"
      h="44px"
      px="6px"
      textAlign="right"
      fontSize="20px"
      fontWeight="700"
      color="onBar"
      borderColor="transparent"
      _hover={{ borderColor: "onBarQuiet" }}
      value={text}
      onChange={(e) => setText(e.target.value.replace(/\D/g, "").slice(0, 3))}
      onBlur={give}
      onKeyDown={(e) => {
        dropped.current = e.key === "Escape";
        if (e.key === "Enter" || e.key === "Escape") e.currentTarget.blur();
      }}
    />
  );
}

/** Percent of the written tempo that one step changes. */
const STEP = 5;
const StepButton = ({ name, sign, onStep }: { name: string; sign: string; onStep: () => void }) => (
  <Button variant="plain" h="44px" minW="40px" px="0" fontSize="20px" color="onBar" aria-label={name} onClick={onStep}>
    {sign}
  </Button>
);

/** Longest pause between two taps of one tempo, and how many are looked at. */
const PAUSE = 2000;
const TAPS = 5;

/** Taps set the tempo: the mean of the last few. */
function Tap({ onGive }: Given) {
  const taps = useRef<number[]>([]);
  const tap = () => {
    const now = performance.now();
    const last = taps.current.at(-1);
    const recent = last !== undefined && now - last < PAUSE ? taps.current : [];
    taps.current = [...recent, now].slice(-TAPS);
    const [first] = taps.current;
    if (taps.current.length > 1) onGive(((taps.current.length - 1) * 60_000) / (now - (first as number)));
  };
  return (
    <Button
      variant="plain"
      h="44px"
      minW="44px"
      px="6px"
      color="onBarQuiet"
      title="Tap the beat here to set the tempo"
      display={{ base: "none", md: "inline-flex" }}
      onClick={tap}
    >
      tap
    </Button>
  );
}

/** The tempo: typed, tapped, slid or stepped. */
export function Tempo() {
  const tune = useBench((s) => s.work.tune);
  const percent = useBench((s) => s.percent);
  const setPercent = useBench((s) => s.setPercent);
  const tempo = tempoOf(tune);
  const beats = Math.round((tempo.bpm * tempo.beat * percent) / 100 / beatTicks(tune.metre));
  const beat = beatTicks(tune.metre);
  // To a tenth of a percent, so that the beats asked for are the beats that come.
  const setBeats = (wanted: number) => setPercent(Math.round((wanted * beat * 1000) / (tempo.bpm * tempo.beat)) / 10);
  return (
    <>
      <Flex align="center" gap="6px" justify="flex-end" whiteSpace="nowrap">
        <TempoField key={beats} beats={beats} name={`Tempo, ${BEATS[beat] ?? "beats"} a minute`} onGive={setBeats} />
        <Box fontSize="12px" lineHeight="15px" color="onBarQuiet" minW="52px" display={{ base: "none", sm: "block" }}>
          <Text>{BEATS[beat] ?? "beats"}</Text>
          <Text>{Math.round(percent)} %</Text>
        </Box>
        <Tap onGive={setBeats} />
      </Flex>
      <Flex display={{ base: "flex", xl: "none" }}>
        <StepButton name="Slower" sign="−" onStep={() => setPercent(percent - STEP)} />
        <StepButton name="Faster" sign="+" onStep={() => setPercent(percent + STEP)} />
      </Flex>
      <Slider.Root
        display={{ base: "none", xl: "block" }}
        w="120px"
        min={40}
        max={150}
        step={STEP}
        value={[percent]}
        onValueChange={({ value }) => setPercent(value[0] ?? 100)}
        aria-label={["Tempo, percent of the written one"]}
      >
        <Slider.Control>
          <Slider.Track bg="#5E5248">
            <Slider.Range bg="#C9BFAF" />
          </Slider.Track>
          <Slider.Thumb index={0} bg="#FBF8F1" borderColor="#FBF8F1">
            <Slider.HiddenInput />
          </Slider.Thumb>
        </Slider.Control>
      </Slider.Root>
    </>
  );
}
