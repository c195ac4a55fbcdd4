"use client";
import { Box, Button, Flex, IconButton } from "@chakra-ui/react";
import { useMemo } from "react";
import { Play, Stop } from "../../icons";
import { RoleBadge, VOICES } from "../../roles";
import { useBench } from "../state";
import { type Heard, voicesOf } from "../voices";
import { Ladder } from "./Ladder";
import { LoopControl } from "./LoopControl";
import { Tempo } from "./Tempo";

/** Play, count-in, tempo, loop, ladder, and a switch for every voice. */
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
      position="relative"
      px={{ base: "10px", xl: "20px" }}
      gap={{ base: "4px", xl: "12px" }}
    >
      <PlayButton />
      <CountIn />
      <Tempo />
      <LoopControl />
      <Ladder />
      <Flex ml="auto" gap={{ base: "4px", xl: "8px" }} role="group" aria-label="Lines heard" overflowX="auto">
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
      flexShrink={0}
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
      h="44px"
      px="6px"
      flexShrink={0}
      display={{ base: "none", sm: "inline-flex" }}
      color={counting ? "onBar" : "onBarQuiet"}
      aria-pressed={counting}
      title="Clicks before the music, counted in large numbers"
      onClick={() => setCounting(!counting)}
    >
      {counting ? "2 bars in" : "no count-in"}
    </Button>
  );
}

function VoiceSwitch({ heard: { id, voice, key } }: { heard: Heard }) {
  const on = useBench((s) => !s.muted.has(id));
  const mute = useBench((s) => s.mute);
  const { name } = VOICES[voice];
  return (
    <Button
      h="44px"
      minW="44px"
      flexShrink={0}
      px={{ base: "6px", xl: "10px" }}
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
      <Box as="span" display={{ base: "none", xl: "inline" }}>
        {name}
      </Box>
    </Button>
  );
}
