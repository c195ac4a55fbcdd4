"use client";
import { Box, Button, Flex, Input, NativeSelect, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Derived } from "../../../core/ensemble";
import {
  addStrain,
  beatTicks,
  type Edited,
  joinBars,
  lengthWords,
  mendBar,
  type Metre,
  metreName,
  moveBarline,
  notices,
  type Place,
  QUARTER,
  removeStrain,
  renameStrain,
  setEnding,
  setKey,
  setMetre,
  setPickup,
  tempoOf,
  toggleRepeat,
  toggleStrain,
  type Tune,
} from "../../../core/score";
import { type Key, Mode } from "../../../core/theory";
import type { BenchState } from "../useBench";
import { Block, PanelHead } from "./parts";

type Props = { bench: BenchState; derived: Derived; bar: number; onRefused: (why: string | undefined) => void };

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

/** Bars, strains, key, metre and tempo: what frames the notes. Everything here works on the bar that is framed. */
export function FormEditor({ bench, derived, bar, onRefused }: Props) {
  const { tune } = bench.work;
  const { places } = derived.analysis;
  const place = places[bar] as Place | undefined;
  const [follow, setFollow] = useState(true);
  const [again, setAgain] = useState(true);
  const edit = (step: string, make: (tune: Tune) => Edited) => onRefused(bench.edit(step, make));
  const set = (step: string, change: Partial<Tune>) => edit(step, (t) => ({ tune: { ...t, ...change } }));
  if (!place) return null;
  const label = tune.strains[place.strain]?.label ?? "";
  const act = (words: string, step: string, make: (tune: Tune) => Edited, title?: string) => (
    <Button
      key={words}
      size="xs"
      h="30px"
      px="9px"
      variant="outline"
      borderColor="cord"
      color="ink"
      bg="transparent"
      _hover={{ bg: "linen" }}
      title={title}
      onClick={() => edit(step, make)}
    >
      {words}
    </Button>
  );
  const name = place.pickup ? "Pickup" : `Bar ${place.number}`;
  const said = name.toLowerCase();
  const off = notices(places);
  const key = (next: Partial<Key>) =>
    edit("Key changed", (t) => setKey(t, { tonic: next.tonic ?? t.key.tonic, mode: next.mode ?? t.key.mode }, follow));
  const tempo = tempoOf(tune);
  const field = (words: string, value: string, step: string, take: (value: string) => Partial<Tune>, max = 400) => (
    <Box mb="6px" key={words}>
      <Text fontSize="13px" color="quiet">
        <label htmlFor={`f-${words}`}>{words}</label>
      </Text>
      <Input
        id={`f-${words}`}
        key={value}
        size="sm"
        bg="fleece"
        borderColor="cord"
        defaultValue={value}
        maxLength={max}
        onBlur={(e) => {
          if (e.target.value.trim() !== value) set(step, take(e.target.value.trim()));
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter") e.currentTarget.blur();
        }}
      />
    </Box>
  );
  const beat = beatTicks(tune.metre);
  const pickups = [0, beat / 3, beat / 2, beat, (3 * beat) / 2, 2 * beat].filter(
    (t, i, all) => Number.isInteger(t) && all.indexOf(t) === i && (t === 0 || t % (QUARTER / 4) === 0),
  );
  return (
    <>
      <PanelHead
        title={name}
        sub={`in ${label}${place.bar.repeatStart ? " · a repeat starts" : ""}${place.bar.repeatEnd ? " · a repeat ends" : ""}${place.bar.ending ? ` · ending ${place.bar.ending.join(", ")}` : ""}`}
      />
      {off.length > 0 && (
        <Box bg="washMadder" borderRadius="6px" px="10px" py="6px" mb="8px">
          {off.slice(0, 4).map((n) => (
            <Flex key={n.bar} gap="8px" align="baseline" fontSize="14px">
              <Text flex="1">{n.message}</Text>
              <Button
                size="xs"
                variant="plain"
                color="madder"
                textDecoration="underline"
                px="0"
                onClick={() => edit(`Bar ${n.number} mended`, (t) => mendBar(t, n.bar))}
              >
                {n.off < 0 ? "add a rest" : "shorten"}
              </Button>
            </Flex>
          ))}
          {off.length > 4 && <Text fontSize="13px">and {off.length - 4} more bars</Text>}
        </Box>
      )}
      <Block title="Bar lines">
        <Flex wrap="wrap" gap="5px">
          {act(
            "line →",
            `Bar line after ${said} moved`,
            (t) => moveBarline(t, bar, 1),
            "Move the bar line after this bar one note on",
          )}
          {act(
            "← line",
            `Bar line after ${said} moved`,
            (t) => moveBarline(t, bar, -1),
            "Move the bar line after this bar one note back",
          )}
          {act("join with next", `${name} joined with the next`, (t) => joinBars(t, bar))}
        </Flex>
        <Flex mt="6px" align="center" gap="6px" fontSize="14px">
          <Text>Pickup</Text>
          <NativeSelect.Root size="xs" w="150px">
            <NativeSelect.Field
              aria-label="Pickup"
              bg="fleece"
              borderColor="cord"
              value={places[0]?.pickup ? places[0].ticks : 0}
              onChange={(e) => edit("Pickup changed", (t) => setPickup(t, Number(e.target.value)))}
            >
              {[...new Set([...pickups, places[0]?.pickup ? places[0].ticks : 0])]
                .sort((a, b) => a - b)
                .map((t) => (
                  <option key={t} value={t}>
                    {t === 0 ? "none" : lengthWords(t)}
                  </option>
                ))}
            </NativeSelect.Field>
            <NativeSelect.Indicator />
          </NativeSelect.Root>
        </Flex>
      </Block>
      <Block title="Repeats and endings">
        <Flex wrap="wrap" gap="5px">
          {act("repeat this strain", `Repeat of ${label} changed`, (t) => toggleRepeat(t, bar))}
          {act("1st ending here", `First ending at ${said}`, (t) => setEnding(t, bar, 1))}
          {act("2nd ending here", `Second ending at ${said}`, (t) => setEnding(t, bar, 2))}
          {place.bar.ending && act("no ending", `Ending at ${said} taken off`, (t) => setEnding(t, bar, undefined))}
        </Flex>
      </Block>
      <Block title="Strains">
        <Flex gap="6px" align="center" mb="6px">
          <Input
            size="xs"
            w="90px"
            bg="fleece"
            borderColor="cord"
            aria-label="Name of the strain"
            key={`${place.strain}${label}`}
            defaultValue={label}
            maxLength={80}
            onBlur={(e) => {
              if (e.target.value.trim() !== label)
                edit(`Strain ${label} renamed`, (t) => renameStrain(t, bar, e.target.value));
            }}
            onKeyDown={(e) => {
              if (e.key === "Enter") e.currentTarget.blur();
            }}
          />
          {act(
            places[bar - 1]?.strain === place.strain ? "new strain here" : "join with the one before",
            "Strains changed",
            (t) => toggleStrain(t, bar),
          )}
        </Flex>
        <Flex wrap="wrap" gap="5px">
          {act("add intro", "Intro added", (t) => addStrain(t, "Intro", 4), "The tune's last four bars, before it")}
          {act(
            "add vamp here",
            "Vamp added",
            (t) => addStrain(t, "Vamp", 2, place.strain),
            "Two bars to stay on until you nod",
          )}
          {act("add tag", "Tag added", (t) => addStrain(t, "Tag", 2), "The last two bars once more")}
          {act(`take ${label} out`, `Strain ${label} taken out`, (t) => removeStrain(t, bar))}
        </Flex>
      </Block>
      <Block title="Key and metre">
        <Flex gap="6px">
          <NativeSelect.Root size="sm" w="84px">
            <NativeSelect.Field
              aria-label="Tonic"
              bg="fleece"
              borderColor="cord"
              value={tune.key.tonic}
              onChange={(e) => key({ tonic: e.target.value })}
            >
              {[...new Set([...TONICS, tune.key.tonic])].map((t) => (
                <option key={t} value={t}>
                  {t.replace("b", "♭").replace("#", "♯")}
                </option>
              ))}
            </NativeSelect.Field>
            <NativeSelect.Indicator />
          </NativeSelect.Root>
          <NativeSelect.Root size="sm" w="130px">
            <NativeSelect.Field
              aria-label="Mode"
              bg="fleece"
              borderColor="cord"
              value={tune.key.mode}
              onChange={(e) => key({ mode: Mode.parse(e.target.value) })}
            >
              {Mode.options.map((m) => (
                <option key={m} value={m}>
                  {m}
                </option>
              ))}
            </NativeSelect.Field>
            <NativeSelect.Indicator />
          </NativeSelect.Root>
        </Flex>
        <label style={{ fontSize: 13 }}>
          <input type="checkbox" checked={follow} onChange={(e) => setFollow(e.target.checked)} /> notes follow the new
          signature
        </label>
        <Flex gap="6px" mt="6px" align="center">
          <NativeSelect.Root size="sm" w="84px">
            <NativeSelect.Field
              aria-label="Metre"
              bg="fleece"
              borderColor="cord"
              value={metreName(tune.metre)}
              onChange={(e) => {
                const metre = METRES.find((m) => metreName(m) === e.target.value);
                if (metre) edit(`Metre ${metreName(metre)}`, (t) => setMetre(t, metre, again));
              }}
            >
              {[...new Set([...METRES.map(metreName), metreName(tune.metre)])].map((m) => (
                <option key={m} value={m}>
                  {m}
                </option>
              ))}
            </NativeSelect.Field>
            <NativeSelect.Indicator />
          </NativeSelect.Root>
          <label style={{ fontSize: 13 }}>
            <input type="checkbox" checked={again} onChange={(e) => setAgain(e.target.checked)} /> lay the bars out anew
          </label>
        </Flex>
        <Flex gap="6px" mt="6px" align="center" fontSize="14px">
          <Text>Tempo</Text>
          <Input
            size="xs"
            w="64px"
            type="number"
            min={10}
            max={400}
            bg="fleece"
            borderColor="cord"
            aria-label="Beats a minute"
            key={tempo.bpm}
            defaultValue={Math.round(tempo.bpm)}
            onBlur={(e) => {
              const bpm = Number(e.target.value);
              if (bpm >= 10 && bpm <= 400 && bpm !== Math.round(tempo.bpm))
                set("Tempo changed", { tempo: { beat: tempo.beat, bpm } });
            }}
            onKeyDown={(e) => {
              if (e.key === "Enter") e.currentTarget.blur();
            }}
          />
          <Text color="quiet">{lengthWords(tempo.beat).replace(/^one /, "")} beats a minute</Text>
        </Flex>
      </Block>
      <Block title="What is written over it">
        {field("Title", tune.title, "Title changed", (title) => ({ title: title || "Untitled" }))}
        {field(
          "Dance, as it is called",
          tune.rhythm,
          "Dance named",
          (rhythm) => ({ rhythm: rhythm.toLowerCase().slice(0, 200) }),
          200,
        )}
        {field("Made by", tune.composer, "Maker named", (composer) => ({ composer }))}
        {field("Source", tune.source, "Source recorded", (source) => ({ source }), 2000)}
      </Block>
    </>
  );
}
