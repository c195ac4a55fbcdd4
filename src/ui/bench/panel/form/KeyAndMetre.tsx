"use client";
import { Flex } from "@chakra-ui/react";
import { useState } from "react";
import { metreName, setKey, setMetre } from "../../../../core/score";
import { type Key, Mode } from "../../../../core/theory";
import { Picker } from "../../../controls/Choice";
import { signed } from "../../../signs";
import { useBench } from "../../state";
import { Block } from "../parts";
import { METRES, TONICS } from "../../../metres";
import { useEdit } from "./useForm";
import { Tempo } from "./Tempo";

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
