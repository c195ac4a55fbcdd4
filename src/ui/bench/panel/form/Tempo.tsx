"use client";
import { Flex, Text } from "@chakra-ui/react";
import { lengthWords, tempoOf } from "../../../../core/score";
import { useBench } from "../../state";
import { LeftInput } from "./LeftInput";
import { useEdit } from "./useForm";

/** Beats a minute that a tempo may have. */
const BPM = { least: 10, most: 400 };

export function Tempo() {
  const tune = useBench((s) => s.work.tune);
  const edit = useEdit();
  const tempo = tempoOf(tune);
  const take = (typed: string) => {
    const bpm = Number(typed);
    if (bpm < BPM.least || bpm > BPM.most) return;
    edit("Tempo changed", (t) => ({ tune: { ...t, tempo: { beat: tempo.beat, bpm } } }));
  };
  return (
    <Flex gap="6px" mt="6px" align="center" fontSize="14px">
      <Text>Tempo</Text>
      <LeftInput
        label="Beats a minute"
        value={String(Math.round(tempo.bpm))}
        max={3}
        width="64px"
        number={BPM}
        onLeave={take}
      />
      <Text color="quiet">{lengthWords(tempo.beat).replace(/^one /, "")} beats a minute</Text>
    </Flex>
  );
}
