"use client";
import { Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { changeGroove, withTune } from "../../../../core/ensemble";
import { PAIR_RATIO, type SnapStyle, SNAPS, withFlicks, withoutFlicks, withSnaps } from "../../../../core/feel";
import { midi, parseChord } from "../../../../core/theory";
import { LineButton } from "../../../controls/buttons";
import { Slide } from "../../../controls/Slide";
import { useBench, useBenchStore } from "../../state";
import { Fold } from "../parts";

/** Even pairs dotted and snapped, how tight they are played, and flicks. Undo brings the old ones back. */
export function Reshape() {
  const bench = useBenchStore();
  const metre = useBench((s) => s.work.tune.metre);
  const change = useBench((s) => s.change);
  if (metre.unit > 4) return null;
  const snap = (style: SnapStyle) => {
    const { plan, analysis } = bench.getState().derived;
    const inChord = (bar: number, event: number) => {
      const name = analysis.places[bar]?.bar.events[event]?.pitches.at(-1);
      const chord = plan.chords.findLast((c) => c.bar === bar);
      return name !== undefined && (parseChord(chord?.symbol ?? "")?.classes.includes(midi(name) % 12) ?? false);
    };
    change(`${style} pairs`, (w) => withTune(w, withSnaps(w.tune, style, inChord)));
  };
  return (
    <Fold title="Pairs, snaps and flicks">
      <Flex gap="6px" wrap="wrap">
        {SNAPS.map(({ name, says }) => (
          <LineButton key={name} size="xs" title={says} onClick={() => snap(name)}>
            {name.toLowerCase()} pairs
          </LineButton>
        ))}
      </Flex>
      <Tightness />
      <Flex gap="6px" wrap="wrap" mt="8px">
        <LineButton
          size="xs"
          title="A quick upper neighbour before main notes that step down or repeat, in the same bow"
          onClick={() => change("Flicks before main notes", (w) => withTune(w, withFlicks(w.tune)))}
        >
          flicks
        </LineButton>
        <LineButton size="xs" onClick={() => change("No flicks", (w) => withTune(w, withoutFlicks(w.tune)))}>
          no flicks
        </LineButton>
      </Flex>
      <Text fontSize="13px" color="quiet" mt="8px">
        One pair turned round: in Tune, choose its first note and press ⇧X.
      </Text>
    </Fold>
  );
}

/** How tight dotted pairs are played, long to short. */
function Tightness() {
  const tight = useBench((s) => s.work.feel.tight ?? PAIR_RATIO.written * 10);
  const change = useBench((s) => s.change);
  const [sliding, setSliding] = useState<number | null>(null);
  const shown = sliding ?? tight;
  return (
    <>
      <Slide
        label="Tightness of dotted pairs, long to short"
        value={tight}
        min={PAIR_RATIO.least * 10}
        max={PAIR_RATIO.most * 10}
        step={5}
        color="woad"
        onSlide={setSliding}
        onTake={(value) => change(`Pairs ${value / 10} to 1`, (w) => changeGroove(w, { tight: value }))}
      />
      <Text fontSize="13px" color="quiet">
        dotted pairs played {shown / 10} to 1{shown === 30 ? ", as written" : ""}
      </Text>
    </>
  );
}
