"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { type Shape, shapesOf } from "../../../../core/technique";
import { parseChord } from "../../../../core/theory";
import { Picker } from "../../../controls/Choice";
import { Tick } from "../../../controls/Tick";
import { Diagram, shapeName } from "../../Diagram";
import { useInstruments } from "../../useInstruments";
import { useNaming } from "../../useNaming";
import { useDiagrams, useShapes } from "../../useShapes";
import { Block } from "../parts";

/** Shapes that are shown, the easiest first. */
const SHOWN = 3;

/** The fretted instrument that chords are held on; the same that everything else of the tune is shown for. */
function HeldOn() {
  const { on } = useShapes();
  const { setInstrument } = useNaming();
  const fretted = useInstruments().filter((i) => i.frets);
  return <Picker label="Shapes on" of={fretted.map((i) => i.name)} now={on.name} onTake={setInstrument} />;
}

/** How a chord is held on a fretted instrument: its easiest shapes, and its open fifth, worked out from the strings. */
export function ChordShapes({ symbol }: { symbol: string }) {
  const { on, level } = useShapes();
  const shapes = shapesOf(on, symbol, level).slice(0, SHOWN);
  const parsed = parseChord(symbol);
  const fifth = parsed ? `${parsed.root}5` : symbol;
  const open = fifth === symbol ? [] : shapesOf(on, fifth, level).slice(0, 1);
  return (
    <Block title="How it is held">
      <HeldOn />
      <Flex gap="10px" mt="6px">
        {shapes.map((shape) => (
          <Held key={shapeName(on, shape)} shape={shape} />
        ))}
      </Flex>
      {shapes.length === 0 && <Text fontSize="14px">Nothing of it lies under a hand of {level}.</Text>}
      {open.map((shape) => (
        <Flex key={shapeName(on, shape)} align="center" gap="12px" mt="6px">
          <Held shape={shape} />
          <Text fontSize="14px">Without its third: an open fifth, for a modal tune.</Text>
        </Flex>
      ))}
    </Block>
  );
}
function Held({ shape }: { shape: Shape }) {
  const { on } = useShapes();
  return (
    <Box textAlign="center">
      <Diagram on={on} shape={shape} />
      <Text fontSize="12px" color="quiet" fontFamily="mono" lineHeight="14px">
        {shapeName(on, shape)}
      </Text>
    </Box>
  );
}

/** Diagrams over the chords of the rows: whether, and on what. */
export function DiagramsSwitch() {
  const [shown, setShown] = useDiagrams();
  const { on, level } = useShapes();
  return (
    <Block title="How they are held">
      <Tick on={shown} words="diagrams over the chords" onTick={(tick) => void setShown(tick || null)} />
      {shown && (
        <>
          <HeldOn />
          <Text fontSize="13px" color="quiet" mt="4px">
            The {on.name} for {level}, hand to hand with few fingers moved. Tuning, capo and level are set under Tune,
            Hands.
          </Text>
        </>
      )}
    </Block>
  );
}
