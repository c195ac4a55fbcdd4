"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { feltBpm, playedOn } from "../../../core/ensemble";
import { beatTicks } from "../../../core/score";
import { ladder, type Rung } from "../../../core/variation";
import { LineButton, LinkButton } from "../../controls/buttons";
import { useBench } from "../state";

/** Bars of a rung that are heard, from the bar that is looked at. */
const HEARD = 4;

/** The tune from its barest form to its richest: how hard each is, how much of the tune it has, and how it sounds. */
export function LadderFold() {
  const [open, setOpen] = useState(false);
  return (
    <Box borderTop="1px solid" borderColor="cord" py="10px">
      <Text fontFamily="heading" fontSize="18px" fontWeight="600">
        The tune, easier and richer
      </Text>
      <LinkButton aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "fold away" : "step by step"}
      </LinkButton>
      {open && <Rungs />}
    </Box>
  );
}

function Rungs() {
  const work = useBench((s) => s.work);
  const places = useBench((s) => s.derived.analysis.places);
  const bar = useBench((s) => s.bar);
  const hear = useBench((s) => s.hear);
  const name = useBench((s) => s.derived.parts.find((p) => p.role === "melody")?.instrument);
  const rungs = useMemo(() => {
    const tick = 60 / feltBpm(work.tune) / beatTicks(work.tune.metre);
    return ladder({ places, on: playedOn(work, name), key: work.tune.key, tick });
  }, [work, places, name]);
  const sound = ({ bars }: Rung) => hear(bar, Math.min(bar + HEARD, places.length) - 1, { tune: bars });
  return (
    <>
      <Text fontSize="13px" color="quiet">
        On the {name}, at the tempo of the page. Each step is taken after those nearer to the page.
      </Text>
      {rungs.map((rung) => (
        <Flex key={rung.name} as="section" aria-label={rung.name} align="center" gap="10px" mt="8px">
          <Box flex="1" minW="0">
            <Text fontSize="14px" fontWeight="600">
              {rung.name}
            </Text>
            <Text fontSize="13px" color="quiet">
              {rung.says} How hard: {Math.round(rung.difficulty)} of 100
              {rung.kept < 1 ? `; ${Math.round(rung.kept * 100)} % of its beats are there.` : "."}
            </Text>
            <Box mt="3px" h="4px" bg="linen" borderRadius="2px">
              <Box h="4px" w={`${rung.difficulty}%`} bg="woad" borderRadius="2px" />
            </Box>
          </Box>
          <LineButton aria-label={`hear ${rung.name}`} onClick={() => sound(rung)}>
            hear
          </LineButton>
        </Flex>
      ))}
    </>
  );
}
