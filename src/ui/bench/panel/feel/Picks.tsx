"use client";
import { Text } from "@chakra-ui/react";
import { changePlectrum, pickedOn, plectrumFor } from "../../../../core/ensemble";
import { PLECTRUMS } from "../../../../core/strokes";
import { ChoiceRow, Picker } from "../../../controls/Choice";
import { useBench } from "../../state";
import { useInstruments } from "../../useInstruments";
import { usePicks } from "../../useStrokes";
import { Block } from "../parts";

/** How the tune is picked: which way of the plectrum, on what. */
export function Picks() {
  const work = useBench((s) => s.work);
  const change = useBench((s) => s.change);
  const { downbeats } = usePicks();
  const style = plectrumFor(work);
  return (
    <Block title={`${downbeats.down} of ${downbeats.all} downbeats on a down-stroke`}>
      <ChoiceRow
        label="Plectrum"
        of={PLECTRUMS.map((p) => p.name)}
        now={style}
        onTake={(name) => change(`Picked ${name}`, (w) => changePlectrum(w, { style: name }))}
      />
      <Text fontSize="13px" color="quiet" mt="4px">
        {PLECTRUMS.find((p) => p.name === style)?.says}
      </Text>
      <Text fontSize="13px" color="quiet" mt="10px" mb="3px">
        Played on
      </Text>
      <Picker
        label="Picked on"
        of={useInstruments()
          .filter((i) => i.family === "plucked")
          .map((i) => i.name)}
        now={pickedOn(work).name}
        onTake={(name) => change(`Picked on the ${name}`, (w) => changePlectrum(w, { instrument: name }))}
      />
    </Block>
  );
}
