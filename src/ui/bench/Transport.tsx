"use client";
import { Box, Button, Flex, IconButton, Slider, Text } from "@chakra-ui/react";
import { Play, Stop } from "../icons";
import { useMemo } from "react";
import { beatTicks, tempoOf, barLabelAt } from "../../core/score";
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

function Speed() {
  const tune = useBench((s) => s.work.tune);
  const percent = useBench((s) => s.percent);
  const setPercent = useBench((s) => s.setPercent);
  const tempo = tempoOf(tune);
  const beats = Math.round((tempo.bpm * tempo.beat * percent) / 100 / beatTicks(tune.metre));
  return (
    <>
      <Flex align="baseline" gap="6px" w={{ base: "auto", md: "104px" }} justify="flex-end" whiteSpace="nowrap">
        <Text fontSize="20px" fontWeight="700">
          {beats}
        </Text>
        <Text fontSize="13px" color="onBarQuiet">
          {percent} %
        </Text>
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
