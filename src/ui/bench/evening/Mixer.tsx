"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { type Evening, groupPartId } from "../../../core/ensemble";
import { LineButton, LinkButton } from "../../controls/buttons";
import { Slide } from "../../controls/Slide";
import { RoleBadge } from "../../roles";
import { useBench } from "../state";

/** Loudest a part is made, in percent of how it is played. */
const LOUDEST = 150;

/** How loud each part is heard; one alone, or all but one. */
export function Mixer({ evening }: { evening: Evening }) {
  const [open, setOpen] = useState(false);
  const setMuted = useBench((s) => s.setMuted);
  const muted = useBench((s) => s.muted);
  const ids = evening.parts.map((p) => groupPartId(p.id));
  const silent = ids.filter((id) => muted.has(id)).length;
  return (
    <Box as="section" aria-label="Mixer" mt="14px">
      <LinkButton aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "fold the mixer away" : "mixer: who is heard, and how loud"}
      </LinkButton>
      {silent > 0 && (
        <LinkButton
          ml="12px"
          onClick={() => setMuted([...muted].filter((id) => !ids.includes(id)))}
        >{`${silent} silent: hear all again`}</LinkButton>
      )}
      {open && (
        <Box
          display="grid"
          gridTemplateColumns={{ base: "1fr", lg: "1fr 1fr" }}
          gap="2px 28px"
          borderTop="1px solid"
          borderColor="cord"
          pt="6px"
        >
          {evening.parts.map((part) => (
            <Strip key={part.id} part={part} all={ids} />
          ))}
        </Box>
      )}
    </Box>
  );
}

function Strip({ part, all }: { part: Evening["parts"][number]; all: readonly string[] }) {
  const id = groupPartId(part.id);
  const muted = useBench((s) => s.muted);
  const mute = useBench((s) => s.mute);
  const setMuted = useBench((s) => s.setMuted);
  const level = useBench((s) => s.levels.get(id) ?? 1);
  const setLevel = useBench((s) => s.setLevel);
  const on = !muted.has(id);
  const { name } = part.learner;
  const alone = on && all.every((other) => other === id || muted.has(other));
  const percent = Math.round(level * 100);
  return (
    <Flex align="center" gap="8px" minH="38px" opacity={on ? 1 : 0.6}>
      <RoleBadge voice={part.role} size={18} />
      <Text fontSize="14px" w="110px" truncate title={name}>
        {name}
      </Text>
      <Box flex="1" minW="70px">
        <Slide
          label={`Loudness of ${name}`}
          value={percent}
          min={0}
          max={LOUDEST}
          step={5}
          color="woad"
          onSlide={(value) => value !== null && setLevel(id, value / 100)}
          onTake={(value) => setLevel(id, value / 100)}
        />
      </Box>
      <Text fontSize="13px" color="quiet" w="40px" textAlign="right">
        {percent} %
      </Text>
      <LineButton size="xs" aria-pressed={!on} aria-label={`${name} silent`} onClick={() => mute(id)}>
        silent
      </LineButton>
      <LineButton
        size="xs"
        aria-pressed={alone}
        aria-label={`${name} alone`}
        onClick={() =>
          setMuted([
            ...[...muted].filter((other) => !all.includes(other)),
            ...(alone ? [] : all.filter((other) => other !== id)),
          ])
        }
      >
        alone
      </LineButton>
    </Flex>
  );
}
