"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import {
  beatTicks,
  joinBars,
  lengthWords,
  mendBar,
  moveBarline,
  notices,
  QUARTER,
  setEnding,
  setPickup,
  toggleRepeat,
} from "../../../../core/score";
import { LinkButton } from "../../../controls/buttons";
import { Picker } from "../../../controls/Choice";
import { useBench } from "../../state";
import { Block } from "../parts";

import { Act } from "./Act";
import { useEdit, useFramed } from "./useForm";

/** Pickups offered, in beats. */
const PICKUPS = [0, 1 / 3, 1 / 2, 1, 3 / 2, 2];
/** Odd bars listed at once. */
const SHOWN = 4;

/** Bars that are too long or too short, each with its mending. */
export function OddBars() {
  const places = useBench((s) => s.derived.analysis.places);
  const edit = useEdit();
  const off = notices(places);
  if (off.length === 0) return null;
  return (
    <Box bg="washMadder" borderRadius="6px" px="10px" py="6px" mb="8px">
      {off.slice(0, SHOWN).map((n) => (
        <Flex key={n.bar} gap="8px" align="baseline" fontSize="14px">
          <Text flex="1">{n.message}</Text>
          <LinkButton tone="madder" onClick={() => edit(`Bar ${n.label} mended`, (t) => mendBar(t, n.bar))}>
            {n.off < 0 ? "add a rest" : "shorten"}
          </LinkButton>
        </Flex>
      ))}
      {off.length > SHOWN && <Text fontSize="13px">and {off.length - SHOWN} more bars</Text>}
    </Box>
  );
}

export function BarLines() {
  const { bar, name, said } = useFramed();
  const first = useBench((s) => s.derived.analysis.places[0]);
  const metre = useBench((s) => s.work.tune.metre);
  const edit = useEdit();
  const moved = `Bar line after ${said} moved`;
  const now = first?.pickup ? first.ticks : 0;
  const fits = (ticks: number) => Number.isInteger(ticks) && ticks % (QUARTER / 4) === 0;
  const lengths = [...new Set([...PICKUPS.map((b) => b * beatTicks(metre)).filter(fits), now])].sort((a, b) => a - b);
  return (
    <Block title="Bar lines">
      <Flex wrap="wrap" gap="5px">
        <Act
          words="line →"
          step={moved}
          make={(t) => moveBarline(t, bar, 1)}
          title="Move the bar line after this bar one note on"
        />
        <Act
          words="← line"
          step={moved}
          make={(t) => moveBarline(t, bar, -1)}
          title="Move the bar line after this bar one note back"
        />
        <Act words="join with next" step={`${name} joined with the next`} make={(t) => joinBars(t, bar)} />
      </Flex>
      <Flex mt="6px" align="center" gap="6px" fontSize="14px">
        <Text>Pickup</Text>
        <Picker
          label="Pickup"
          width="150px"
          of={lengths.map((t) => ({ value: String(t), words: t === 0 ? "none" : lengthWords(t) }))}
          now={String(now)}
          onTake={(ticks) => edit("Pickup changed", (t) => setPickup(t, Number(ticks)))}
        />
      </Flex>
    </Block>
  );
}

export function Repeats() {
  const { bar, place, label, said } = useFramed();
  const repeated = useBench((s) => {
    const own = s.derived.analysis.places.filter((p) => p.strain === place?.strain);
    return own.some((p) => p.bar.repeatEnd !== undefined);
  });
  const ends = (pass: number) => place?.bar.ending?.includes(pass) ?? false;
  return (
    <Block title="Repeats and endings">
      <Flex wrap="wrap" gap="5px">
        <Act
          words="repeat this strain"
          step={`Repeat of ${label} changed`}
          make={(t) => toggleRepeat(t, bar)}
          on={repeated}
        />
        <Act words="1st ending here" step={`First ending at ${said}`} make={(t) => setEnding(t, bar, 1)} on={ends(1)} />
        <Act
          words="2nd ending here"
          step={`Second ending at ${said}`}
          make={(t) => setEnding(t, bar, 2)}
          on={ends(2)}
        />
        {place?.bar.ending && (
          <Act words="no ending" step={`Ending at ${said} taken off`} make={(t) => setEnding(t, bar, undefined)} />
        )}
      </Flex>
    </Block>
  );
}
