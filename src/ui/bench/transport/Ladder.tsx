"use client";
import { Box, Button, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import { Stairs } from "../../icons";
import { LineButton, SolidButton } from "../../controls/buttons";
import { counted } from "../../signs";
import { type Ladder as Steps, rungsOf, useBench } from "../state";

/** What can be set of a ladder, with its limits. */
const FIELDS: readonly { name: keyof Steps; words: string; least: number; most: number }[] = [
  { name: "from", words: "from, percent", least: 40, most: 150 },
  { name: "to", words: "to, percent", least: 40, most: 150 },
  { name: "step", words: "in steps of", least: 1, most: 50 },
  { name: "times", words: "times each", least: 1, most: 20 },
];

/** The tempo ladder: the loop, or the tune, a few times at each tempo, then a little faster. It says which sounds. */
export function Ladder() {
  const [open, setOpen] = useState(false);
  const rung = useBench((s) => s.rung);
  return (
    <>
      <Button
        variant="outline"
        h="44px"
        px="10px"
        gap="7px"
        flexShrink={0}
        borderColor={rung ? "#B9AC9B" : "#5E5248"}
        color={rung ? "onBar" : "onBarQuiet"}
        bg={open ? "whiteAlpha.200" : "transparent"}
        _hover={{ bg: "whiteAlpha.200" }}
        fontWeight="500"
        aria-expanded={open}
        title="Faster in steps, a few times each"
        onClick={() => setOpen(!open)}
      >
        <Stairs size={17} />
        {rung ? `${rung.percent} %, ${rung.time} of ${rung.times}` : "ladder"}
      </Button>
      {open && <Settings onClose={() => setOpen(false)} />}
    </>
  );
}

function Settings({ onClose }: { onClose: () => void }) {
  const ladder = useBench((s) => s.ladder);
  const setLadder = useBench((s) => s.setLadder);
  const climb = useBench((s) => s.climb);
  const loop = useBench((s) => s.loop);
  const rungs = rungsOf(ladder);
  return (
    <Box
      role="group"
      aria-label="Tempo ladder"
      position="absolute"
      bottom="68px"
      left={{ base: "10px", md: "200px" }}
      zIndex={20}
      w="300px"
      maxW="calc(100vw - 20px)"
      bg="fleece"
      color="ink"
      border="1px solid"
      borderColor="cord"
      borderRadius="8px"
      boxShadow="lg"
      p="16px"
    >
      <Text fontFamily="heading" fontSize="18px" fontWeight="600">
        Tempo ladder
      </Text>
      <Text fontSize="14px" color="quiet" mb="8px">
        {loop ? "The loop" : "The whole tune"}, {counted(ladder.times, "time")} at each tempo.
      </Text>
      <Flex wrap="wrap" gap="8px 12px">
        {FIELDS.map(({ name, words, least, most }) => (
          <Box key={name} w="126px">
            <label htmlFor={`ladder-${name}`}>
              <Text as="span" fontSize="13px">
                {words}
              </Text>
            </label>
            <Input
              id={`ladder-${name}`}
              type="number"
              size="sm"
              h="40px"
              bg="fleece"
              borderColor="cord"
              min={least}
              max={most}
              value={ladder[name]}
              onChange={(e) => {
                const wanted = Number(e.target.value);
                if (wanted >= least && wanted <= most) setLadder({ ...ladder, [name]: Math.round(wanted) });
              }}
            />
          </Box>
        ))}
      </Flex>
      <Text mt="10px" fontSize="14px">
        {rungs.slice(0, 12).join(", ")} {rungs.length > 12 ? "… " : ""}percent
      </Text>
      <Flex mt="10px" gap="8px">
        <SolidButton
          size="md"
          onClick={() => {
            climb();
            onClose();
          }}
        >
          Climb
        </SolidButton>
        <LineButton size="md" onClick={onClose}>
          Close
        </LineButton>
      </Flex>
    </Box>
  );
}
