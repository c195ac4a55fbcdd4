"use client";
import { Box, Button, Flex, IconButton, Input, Slider, Text } from "@chakra-ui/react";
import { Play, Stop } from "../icons";
import { useMemo, useRef, useState } from "react";
import { barLabelAt, beatTicks, QUARTER, tempoOf } from "../../core/score";
import { RoleBadge, VOICES } from "../roles";
import { useBench } from "./state";
import { type Heard, voicesOf } from "./voices";

/** Play, count-in, tempo, loop, and a switch for every voice. */
export function Transport() {
  const parts = useBench((s) => s.derived.parts);
  const voices = useMemo(() => voicesOf(parts), [parts]);
  return (
    <Flex
      as="footer"
      aria-label="Playing"
      h="62px"
      flexShrink={0}
      bg="bar"
      color="onBar"
      align="center"
      px={{ base: "10px", md: "20px" }}
      gap={{ base: "6px", md: "16px" }}
    >
      <PlayButton />
      <CountIn />
      <Speed />
      <LoopWords />
      <Flex ml="auto" gap={{ base: "4px", md: "8px" }} role="group" aria-label="Lines heard" overflowX="auto">
        {voices.map((heard) => (
          <VoiceSwitch key={heard.id} heard={heard} />
        ))}
      </Flex>
    </Flex>
  );
}

function PlayButton() {
  const playing = useBench((s) => s.playing);
  const toggle = useBench((s) => s.toggle);
  const name = playing ? "Stop" : "Play";
  return (
    <IconButton
      aria-label={name}
      title={`${name} (Space)`}
      borderRadius="full"
      w="46px"
      h="46px"
      bg="#FBF8F1"
      color="#2A2522"
      _hover={{ bg: "#F2ECDF" }}
      onClick={toggle}
    >
      {playing ? <Stop fill="currentColor" /> : <Play fill="currentColor" />}
    </IconButton>
  );
}

function CountIn() {
  const counting = useBench((s) => s.counting);
  const setCounting = useBench((s) => s.setCounting);
  return (
    <Button
      variant="plain"
      h="40px"
      px="6px"
      display={{ base: "none", sm: "inline-flex" }}
      color={counting ? "onBar" : "onBarQuiet"}
      aria-pressed={counting}
      title="Clicks before the music"
      onClick={() => setCounting(!counting)}
    >
      {counting ? "2 bars in" : "no count-in"}
    </Button>
  );
}

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
      h="40px"
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
      h="40px"
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

function Speed() {
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
      <Slider.Root
        display={{ base: "none", md: "block" }}
        w="150px"
        min={40}
        max={150}
        step={5}
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

function LoopWords() {
  const loop = useBench((s) => s.loop);
  const bar = useBench((s) => s.bar);
  const places = useBench((s) => s.derived.analysis.places);
  const setLoop = useBench((s) => s.setLoop);
  const number = (index: number) => barLabelAt(places, index);
  if (loop) {
    const to = loop.to > loop.from ? ` to ${number(loop.to)}` : "";
    return (
      <Button
        variant="plain"
        h="40px"
        px="8px"
        color="onBar"
        title="Clear the loop (Esc)"
        onClick={() => setLoop(null)}
      >
        loops bar {number(loop.from)}
        {to} ×
      </Button>
    );
  }
  return (
    <Button
      variant="plain"
      h="40px"
      px="8px"
      display={{ base: "none", md: "inline-flex" }}
      color="onBarQuiet"
      title="Loop this bar; drag over the weave or press Shift and an arrow for more"
      onClick={() => setLoop({ from: bar, to: bar })}
    >
      from bar {barLabelAt(places, bar) === "0" ? "1" : barLabelAt(places, bar)}
    </Button>
  );
}

function VoiceSwitch({ heard: { id, voice, key } }: { heard: Heard }) {
  const on = useBench((s) => !s.muted.has(id));
  const mute = useBench((s) => s.mute);
  const { name } = VOICES[voice];
  return (
    <Button
      h="40px"
      minW="40px"
      flexShrink={0}
      px={{ base: "6px", md: "10px" }}
      variant="outline"
      borderColor={on ? "#B9AC9B" : "#5E5248"}
      bg="transparent"
      color={on ? "onBar" : "onBarQuiet"}
      _hover={{ bg: "whiteAlpha.200" }}
      aria-pressed={on}
      aria-label={name}
      title={`${name} on or off${key ? ` (${key})` : ""}`}
      onClick={() => mute(id)}
      fontWeight="500"
      textDecoration={on ? undefined : "line-through"}
    >
      <Box as="span" className="dark" opacity={on ? 1 : 0.45} display="inline-flex">
        <RoleBadge voice={voice} />
      </Box>
      <Box as="span" display={{ base: "none", lg: "inline" }}>
        {name}
      </Box>
    </Button>
  );
}
