"use client";
import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
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
  barLabel,
} from "../../../core/score";
import { type Key, Mode } from "../../../core/theory";
import { LineButton, LinkButton } from "../../controls/buttons";
import { Picker } from "../../controls/Choice";
import { signed } from "../../signs";
import { useBench } from "../state";
import { Block, PanelHead } from "./parts";

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
const PICKUPS = [0, 1 / 3, 1 / 2, 1, 3 / 2, 2];
/** Odd bars listed at once. */
const SHOWN = 4;
/** Longest texts the score keeps, by field. */
const LONGEST = { name: 80, words: 200, title: 400, source: 2000 };
const BPM = { least: 10, most: 400 };

type Make = (tune: Tune) => Edited;

/** An edit of the tune; why it cannot be done stands over the page. */
function useEdit() {
  const edit = useBench((s) => s.edit);
  const setRefused = useBench((s) => s.setRefused);
  return (step: string, make: Make) => setRefused(edit(step, make));
}

/** The bar that is framed, the strain it is in, and its name at the start of a sentence and within one. */
function useFramed() {
  const bar = useBench((s) => s.bar);
  const place = useBench((s) => s.derived.analysis.places[s.bar] as Place | undefined);
  const before = useBench((s) => s.derived.analysis.places[s.bar - 1] as Place | undefined);
  const strains = useBench((s) => s.work.tune.strains);
  const name = place?.pickup ? "Pickup" : `Bar ${place ? barLabel(place) : ""}`;
  return { bar, place, before, label: strains[place?.strain ?? 0]?.label ?? "", name, said: name.toLowerCase() };
}

/** Bars, strains, key, metre and tempo: what frames the notes. Everything here works on the bar that is framed. */
export function FormEditor() {
  const { place, label, name } = useFramed();
  if (!place) return null;
  const { repeatStart, repeatEnd, ending } = place.bar;
  const facts = [
    `in ${label}`,
    ...(repeatStart ? ["a repeat starts"] : []),
    ...(repeatEnd ? ["a repeat ends"] : []),
    ...(ending ? [`ending ${ending.join(", ")}`] : []),
  ];
  return (
    <>
      <PanelHead title={name} sub={facts.join(" · ")} />
      <OddBars />
      <BarLines />
      <Repeats />
      <Strains />
      <KeyAndMetre />
      <Headings />
    </>
  );
}

/** Bars that are too long or too short, each with its mending. */
function OddBars() {
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

/** A button that edits the tune: what it says, the step it makes, and a longer word where the short one needs it. */
function Act({
  words,
  step,
  make,
  title,
  on,
}: {
  words: string;
  step: string;
  make: Make;
  title?: string;
  on?: boolean;
}) {
  const edit = useEdit();
  return (
    <LineButton size="xs" title={title} aria-pressed={on} onClick={() => edit(step, make)}>
      {words}
    </LineButton>
  );
}

function BarLines() {
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

function Repeats() {
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

function Strains() {
  const { bar, place, before, label } = useFramed();
  const edit = useEdit();
  const rename = (name: string) => edit(`Strain ${label} renamed`, (t) => renameStrain(t, bar, name));
  return (
    <Block title="Strains">
      <Flex gap="6px" align="center" mb="6px">
        <LeftInput label="Name of the strain" value={label} max={LONGEST.name} width="90px" onLeave={rename} />
        <Act
          words={before && before.strain === place?.strain ? "new strain here" : "join with the one before"}
          step="Strains changed"
          make={(t) => toggleStrain(t, bar)}
        />
      </Flex>
      <Flex wrap="wrap" gap="5px">
        <Act
          words="add intro"
          step="Intro added"
          make={(t) => addStrain(t, "Intro", 4)}
          title="The tune's last four bars, before it"
        />
        <Act
          words="add vamp here"
          step="Vamp added"
          make={(t) => addStrain(t, "Vamp", 2, place?.strain)}
          title="Two bars to stay on until you nod"
        />
        <Act
          words="add tag"
          step="Tag added"
          make={(t) => addStrain(t, "Tag", 2)}
          title="The last two bars once more"
        />
        <Act words={`take ${label} out`} step={`Strain ${label} taken out`} make={(t) => removeStrain(t, bar)} />
      </Flex>
    </Block>
  );
}

function KeyAndMetre() {
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

function Tempo() {
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
        number
        onLeave={take}
      />
      <Text color="quiet">{lengthWords(tempo.beat).replace(/^one /, "")} beats a minute</Text>
    </Flex>
  );
}

/** A field that takes what was typed when it is left, by Enter or otherwise. */
function LeftInput({
  label,
  value,
  max,
  width,
  id,
  number = false,
  onLeave,
}: {
  label: string;
  value: string;
  max: number;
  width?: string;
  id?: string;
  number?: boolean;
  onLeave: (typed: string) => void;
}) {
  return (
    <Input
      key={value}
      size={id ? "sm" : "xs"}
      bg="fleece"
      borderColor="cord"
      defaultValue={value}
      maxLength={max}
      {...(width ? { w: width } : {})}
      {...(id ? { id } : { "aria-label": label })}
      {...(number ? { type: "number", min: BPM.least, max: BPM.most } : {})}
      onBlur={(e) => {
        const typed = e.target.value.trim();
        if (typed !== value) onLeave(typed);
      }}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
      }}
    />
  );
}

type Heading = {
  words: string;
  of: (tune: Tune) => string;
  step: string;
  max: number;
  take: (typed: string) => Partial<Tune>;
};
const HEADINGS: readonly Heading[] = [
  {
    words: "Title",
    of: (t) => t.title,
    step: "Title changed",
    max: LONGEST.title,
    take: (title) => ({ title: title || "Untitled" }),
  },
  {
    words: "Dance, as it is called",
    of: (t) => t.rhythm,
    step: "Dance named",
    max: LONGEST.words,
    take: (rhythm) => ({ rhythm: rhythm.toLowerCase() }),
  },
  {
    words: "Made by",
    of: (t) => t.composer,
    step: "Maker named",
    max: LONGEST.title,
    take: (composer) => ({ composer }),
  },
  {
    words: "Source",
    of: (t) => t.source,
    step: "Source recorded",
    max: LONGEST.source,
    take: (source) => ({ source }),
  },
];

function Headings() {
  const tune = useBench((s) => s.work.tune);
  const edit = useEdit();
  return (
    <Block title="What is written over it">
      {HEADINGS.map(({ words, of, step, max, take }) => (
        <Box mb="6px" key={words}>
          <Text fontSize="13px" color="quiet">
            <label htmlFor={`f-${words}`}>{words}</label>
          </Text>
          <LeftInput
            id={`f-${words}`}
            label={words}
            value={of(tune)}
            max={max}
            onLeave={(typed) => edit(step, (t) => ({ tune: { ...t, ...take(typed) } }))}
          />
        </Box>
      ))}
    </Block>
  );
}
