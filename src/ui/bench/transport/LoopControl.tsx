"use client";
import { Button, Flex } from "@chakra-ui/react";
import { barLabelAt } from "../../../core/score";
import { Close, Loop } from "../../icons";
import { useBench } from "../state";

/** A switch that loops the bar looked at, and says which bars are looped. */
export function LoopControl() {
  const loop = useBench((s) => s.loop);
  const bar = useBench((s) => s.bar);
  const places = useBench((s) => s.derived.analysis.places);
  const setLoop = useBench((s) => s.setLoop);
  const number = (index: number) => barLabelAt(places, index);
  const own = places[bar]?.pickup ? bar + 1 : bar;
  const to = loop && loop.to > loop.from ? ` to ${number(loop.to)}` : "";
  return (
    <Flex flexShrink={0}>
      <Button
        variant="outline"
        h="44px"
        px="10px"
        gap="7px"
        borderColor={loop ? "#B9AC9B" : "#5E5248"}
        bg={loop ? "whiteAlpha.200" : "transparent"}
        color={loop ? "onBar" : "onBarQuiet"}
        _hover={{ bg: "whiteAlpha.200" }}
        fontWeight="500"
        aria-pressed={loop !== null}
        title={
          loop
            ? "Clear the loop (Esc)"
            : `Loop bar ${number(own)}; drag over the weave, or press Shift and an arrow, for more bars`
        }
        onClick={() => setLoop(loop ? null : { from: own, to: own })}
      >
        <Loop size={17} />
        {loop ? `loops bar ${number(loop.from)}${to}` : "loop"}
        {loop && <Close size={15} />}
      </Button>
    </Flex>
  );
}
