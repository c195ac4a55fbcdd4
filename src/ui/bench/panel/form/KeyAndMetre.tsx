"use client";
import { Flex } from "@chakra-ui/react";
import { useState } from "react";
import { type Metre, metreName, setKey, setMetre } from "../../../../core/score";
import { type Key, Mode } from "../../../../core/theory";
import { Picker } from "../../../controls/Choice";
import { signed } from "../../../signs";
import { useBench } from "../../state";
import { Block } from "../parts";
import { useEdit } from "./useForm";
import { Tempo } from "./Tempo";

const TONICS = ["C", "G", "D", "A", "E", "B", "F#", "C#", "F", "Bb", "Eb", "Ab", "Db", "Gb"];
const METRES: readonly Metre[] = [
  { beats: 4, unit: 4 },
  { beats: 2, unit: 2, symbol: "cut" },
  { beats: 2, unit: 4 },
  { beats: 3, unit: 4 },
  { beats: 6, unit: 8 },
  { beats: 9, unit: 8 },
  { beats: 12, unit: 8 },
  { beats: 3, unit: 8 },
  { beats: 3, unit: 2 },
  { beats: 5, unit: 4 },
  { beats: 7, unit: 8 },
];
/** Pickups offered, in beats. */
const _PICKUPS = [0, 1 / 3, 1 / 2, 1, 3 / 2, 2];

export function KeyAndMetre() {
  const tune = useBench((s) => s.work.tune);
  const [follow, setFollow] = useState(true);
  const [again, setAgain] = useState(true);
  const edit = useEdit();
  const setTo = (key: Partial<Key>) => edit("Key changed", (t) => setKey(t, { ...t.key, ...key }, follow));
  const takeMetre = (name: string) => {
    const metre = METRES.find((m) => metreName(m) === name);
    if (metre) edit(`Metre ${name}`, (t) => setMetre(t, metre, again));
  };
  return (
    <Block title="Key and metre">
      <Flex gap="6px">
        <Picker
          label="Tonic"
          width="84px"
          of={[...new Set([...TONICS, tune.key.tonic])].map((t) => ({ value: t, words: signed(t) }))}
          now={tune.key.tonic}
          onTake={(tonic) => setTo({ tonic })}
        />
        <Picker
          label="Mode"
          width="130px"
          of={Mode.options}
          now={tune.key.mode}
          onTake={(mode) => setTo({ mode: Mode.parse(mode) })}
        />
      </Flex>
      <Tick words="notes follow the new signature" on={follow} onSet={setFollow} />
      <Flex gap="6px" mt="6px" align="center">
        <Picker
          label="Metre"
          width="84px"
          of={[...new Set([...METRES.map(metreName), metreName(tune.metre)])]}
          now={metreName(tune.metre)}
          onTake={takeMetre}
        />
        <Tick words="lay the bars out anew" on={again} onSet={setAgain} />
      </Flex>
      <Tempo />
    </Block>
  );
}

const Tick = ({ words, on, onSet }: { words: string; on: boolean; onSet: (on: boolean) => void }) => (
  <label style={{ fontSize: 13 }}>
    <input type="checkbox" checked={on} onChange={(e) => onSet(e.target.checked)} /> {words}
  </label>
);
