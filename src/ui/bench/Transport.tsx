"use client";
import { Box, Button, Flex, IconButton, Slider, Text } from "@chakra-ui/react";
import { Play, Square } from "lucide-react";
import type { Derived, Work } from "../../core/ensemble";
import { beatTicks, tempoOf } from "../../core/score";
import { RoleBadge, ROLES, type Role } from "../roles";
import type { Loop, PlayerState } from "./usePlayer";

type Props = {
  player: PlayerState;
  work: Work;
  derived: Derived | null;
  loop: Loop;
  bar: number;
  onLoop: (loop: Loop) => void;
};

/** Play, count-in, tempo, loop, and a switch for every line. */
export function Transport({ player, work, derived, loop, bar, onLoop }: Props) {
  const tempo = tempoOf(work.tune);
  const beats = Math.round((tempo.bpm * tempo.beat * player.percent) / 100 / beatTicks(work.tune.metre));
  const lines: { id: string; role: Role; key: string }[] = [
    { id: "melody", role: "melody", key: "M" },
    { id: "moving", role: work.side === "below" ? "low" : "high", key: "K" },
    ...(work.second ? [{ id: "second", role: (work.second.side === "below" ? "low" : "high") as Role, key: "J" }] : []),
    { id: "chords", role: "chords", key: "C" },
    { id: "first", role: "note", key: "N" },
  ];
  const number = (index: number) => derived?.analysis.places[index]?.number ?? 0;
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
      <IconButton
        aria-label={player.playing ? "Stop" : "Play"}
        title={`${player.playing ? "Stop" : "Play"} (Space)`}
        disabled={!derived}
        borderRadius="full"
        w="46px"
        h="46px"
        bg="#FBF8F1"
        color="#2A2522"
        _hover={{ bg: "#F2ECDF" }}
        onClick={player.toggle}
      >
        {player.playing ? <Square fill="currentColor" /> : <Play fill="currentColor" />}
      </IconButton>
      <Button
        variant="plain"
        h="40px"
        px="6px"
        display={{ base: "none", sm: "inline-flex" }}
        color={player.counting ? "onBar" : "onBarQuiet"}
        aria-pressed={player.counting}
        title="Clicks before the music"
        onClick={() => player.setCounting(!player.counting)}
      >
        {player.counting ? "2 bars in" : "no count-in"}
      </Button>
      <Flex align="baseline" gap="6px" w={{ base: "auto", md: "104px" }} justify="flex-end" whiteSpace="nowrap">
        <Text fontSize="20px" fontWeight="700">
          {beats}
        </Text>
        <Text fontSize="13px" color="onBarQuiet">
          {player.percent} %
        </Text>
      </Flex>
      <Slider.Root
        display={{ base: "none", md: "block" }}
        w="150px"
        min={40}
        max={150}
        step={5}
        value={[player.percent]}
        onValueChange={({ value }) => player.setPercent(value[0] ?? 100)}
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
      {loop ? (
        <Button
          variant="plain"
          h="40px"
          px="8px"
          color="onBar"
          title="Clear the loop (Esc)"
          onClick={() => onLoop(null)}
        >
          loops bar {number(loop.from)}
          {loop.to > loop.from ? ` to ${number(loop.to)}` : ""} ×
        </Button>
      ) : (
        <Button
          variant="plain"
          h="40px"
          px="8px"
          display={{ base: "none", md: "inline-flex" }}
          color="onBarQuiet"
          title="Loop this bar; drag over the weave or press Shift and an arrow for more"
          onClick={() => onLoop({ from: bar, to: bar })}
        >
          from bar {Math.max(1, number(bar))}
        </Button>
      )}
      <Flex ml="auto" gap={{ base: "4px", md: "8px" }} role="group" aria-label="Lines heard">
        {lines.map(({ id, role, key }) => {
          const on = !player.muted.has(id);
          return (
            <Button
              key={id}
              h="40px"
              minW="40px"
              px={{ base: "6px", md: "10px" }}
              variant="outline"
              borderColor={on ? "#B9AC9B" : "#5E5248"}
              bg="transparent"
              color={on ? "onBar" : "onBarQuiet"}
              _hover={{ bg: "whiteAlpha.200" }}
              aria-pressed={on}
              title={`${ROLES[role].name} on or off (${key})`}
              onClick={() => player.mute(id)}
              fontWeight="500"
              textDecoration={on ? undefined : "line-through"}
            >
              <Box as="span" className="dark" opacity={on ? 1 : 0.45} display="inline-flex">
                <RoleBadge role={role} />
              </Box>
              <Box as="span" display={{ base: "none", lg: "inline" }}>
                {ROLES[role].name}
              </Box>
            </Button>
          );
        })}
      </Flex>
    </Flex>
  );
}
