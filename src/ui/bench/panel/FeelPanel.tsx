"use client";
import { Box, Flex, RadioGroup, Slider, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useMemo, useState } from "react";
import {
  AS_WRITTEN,
  bowingFor,
  changeBowing,
  changeGroove,
  feltBpm,
  grooveFor,
  withTune,
} from "../../../core/ensemble";
import {
  CELLS,
  cellFits,
  foundCells,
  type Groove,
  GROOVES,
  grooveTempo,
  PURPOSES,
  safeGhosts,
  setToCell,
  shaped,
  type SnapStyle,
  SNAPS,
  usualTempo,
  withGhosts,
  withSnaps,
} from "../../../core/feel";
import { midi, parseChord } from "../../../core/theory";
import { barLabel, barLabelAt } from "../../../core/score";
import { BOWINGS } from "../../../core/strokes";
import { KeyButton, LineButton } from "../../controls/buttons";
import { counted } from "../../signs";
import { Picker } from "../../controls/Choice";
import { useBench, useBenchStore } from "../state";
import { useBows } from "../useBows";
import { AccentBar } from "./AccentBar";
import css from "./panel.module.css";
import { Block, ChoiceBar, Fold, Key, nearness, PanelHead } from "./parts";

/** How the tune moves: its dance with accents and swing, and its bows. */
export function FeelPanel() {
  const work = useBench((s) => s.work);
  const analysis = useBench((s) => s.derived.analysis);
  const groove = grooveFor(work, { analysis });
  return (
    <>
      <PanelHead
        title={groove ? `${capital(groove.name)}, ${groove.character}` : "As it is written"}
        sub={groove ? groove.lift : "every note where and as long as it stands"}
      />
      <Dance own={analysis.dance.name} />
      {groove && <Accents groove={groove} />}
      <Bows />
      <Cells />
      <Ghosts />
      <Reshape />
      {groove && <Tempos groove={groove} />}
    </>
  );
}
const capital = (text: string) => `${text[0]?.toUpperCase()}${text.slice(1)}`;

function Dance({ own }: { own: string }) {
  const chosen = useBench((s) => s.work.feel.groove);
  const change = useBench((s) => s.change);
  const options = [
    { value: "", words: `its own: ${own}` },
    ...GROOVES.map((g) => ({ value: g.name, words: g.name })),
    { value: AS_WRITTEN, words: "straight, as written" },
  ];
  return (
    <Picker
      label="Danced as"
      of={options}
      now={chosen ?? ""}
      onTake={(name) =>
        change(name ? `Danced as ${name}` : "Danced as its own dance", (w) => changeGroove(w, { groove: name || null }))
      }
    />
  );
}

/** One bar of the groove at today's tempo, and how strong it is. */
function Accents({ groove }: { groove: Groove }) {
  const tune = useBench((s) => s.work.tune);
  const percent = useBench((s) => s.percent);
  const strength = useBench((s) => s.work.feel.strength ?? 100);
  const change = useBench((s) => s.change);
  const [sliding, setSliding] = useState<number | null>(null);
  const bpm = feltBpm(tune, percent);
  const shown = sliding ?? strength;
  const shape = shaped(groove, grooveTempo(groove, tune.metre, bpm), shown);
  return (
    <Block title="One bar: how strong, and when">
      <AccentBar shape={shape} />
      <Slider.Root
        mt="10px"
        min={0}
        max={150}
        step={10}
        value={[shown]}
        onValueChange={({ value }) => setSliding(value[0] ?? null)}
        // One step of the history for one slide, however far it goes.
        onValueChangeEnd={({ value }) => {
          setSliding(null);
          change(`Feel ${value[0]} percent`, (w) => changeGroove(w, { strength: value[0] ?? 100 }));
        }}
        aria-label={["Strength of the feel, percent"]}
      >
        <Slider.Control>
          <Slider.Track bg="cord">
            <Slider.Range bg="madder" />
          </Slider.Track>
          <Slider.Thumb index={0} bg="fleece" borderColor="ink">
            <Slider.HiddenInput />
          </Slider.Thumb>
        </Slider.Control>
      </Slider.Root>
      <Text fontSize="13px" color="quiet">
        {shown === 0 ? "straight and even" : `${shown} percent of the dance’s lean`}
      </Text>
    </Block>
  );
}

function Bows() {
  const work = useBench((s) => s.work);
  const change = useBench((s) => s.change);
  const { downbeats } = useBows();
  const style = bowingFor(work);
  return (
    <Block title={`Bows: ${downbeats.down} of ${downbeats.all} downbeats on a down-bow`}>
      <RadioGroup.Root
        value={style}
        onValueChange={({ value }) => {
          const found = BOWINGS.find((b) => b.name === value);
          if (found) change(`Bowed ${found.name}`, (w) => changeBowing(w, found.name));
        }}
        aria-label="Bowing"
      >
        {BOWINGS.map(({ name, says }) => (
          <RadioGroup.Item key={name} value={name} className={css.school} title={says}>
            <RadioGroup.ItemHiddenInput />
            <RadioGroup.ItemText className={css.schoolText}>
              <span>{name}</span>
            </RadioGroup.ItemText>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      <Text fontSize="13px" color="quiet" mt="4px">
        {BOWINGS.find((b) => b.name === style)?.says}
      </Text>
    </Block>
  );
}

/** Cells that are pulled out before anything else. */
const FIRST = 2;
function Cells() {
  const places = useBench((s) => s.derived.analysis.places);
  const setLoop = useBench((s) => s.setLoop);
  const setBar = useBench((s) => s.setBar);
  const id = useBench((s) => s.id);
  const cells = useMemo(() => foundCells(places).slice(0, FIRST), [places]);
  if (cells.length === 0) return null;
  return (
    <Block title="Pull these rhythms out first">
      {cells.map((cell) => {
        const [bar = 0] = cell.bars;
        return (
          <Box
            as="button"
            key={cell.name}
            display="block"
            w="100%"
            textAlign="left"
            borderTop="1px solid"
            borderColor="cord"
            py="6px"
            title={`Loop bar ${barLabelAt(places, bar)}`}
            _hover={{ bg: "linen" }}
            onClick={() => {
              setBar(bar);
              setLoop({ from: bar, to: bar });
            }}
          >
            <Flex h="12px" gap="2px" mb="2px" maxW="200px">
              {cell.lengths.map((length, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: notes of one cell, in order
                <Box key={i} bg="woad" borderRadius="2px" style={{ flex: `${length} 1 0` }} />
              ))}
            </Flex>
            <Flex gap="2px" maxW="200px" fontSize="13px">
              {cell.syllables.map((word, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: words of one cell, in order
                <Text key={i} style={{ flex: `${cell.lengths[i]} 1 0` }}>
                  {word}
                </Text>
              ))}
            </Flex>
            <Text fontSize="13px" color="quiet">
              {cell.name.toLowerCase()}, {counted(cell.count, "time")}: teaches {cell.teaches}
            </Text>
          </Box>
        );
      })}
      <Text fontSize="14px" mt="4px">
        <Link href={`/tune/${id}/drill`}>
          <Text as="span" color="woad" textDecoration="underline">
            Drill them, rung by rung
          </Text>
        </Link>
      </Text>
    </Block>
  );
}

/** Notes that may be ghosted, and a press that ghosts them all or gives them back. */
function Ghosts() {
  const places = useBench((s) => s.derived.analysis.places);
  const change = useBench((s) => s.change);
  const safe = useMemo(() => safeGhosts(places), [places]);
  const count = useMemo(
    () => places.reduce((n, p) => n + p.bar.events.filter((e) => e.marks?.includes("ghost")).length, 0),
    [places],
  );
  const mark = (on: boolean) =>
    change(on ? "Safe notes ghosted" : "No ghost notes", (w) => {
      const named = new Set(safe.map((g) => `${g.bar}.${g.event}`));
      return withTune(
        w,
        withGhosts(w.tune, (bar, event) => on && named.has(`${bar}.${event}`)),
      );
    });
  return (
    <Fold title="Ghost notes">
      <Text fontSize="14px" mb="6px">
        {counted(safe.length, "note is", "notes are")} safe to ghost: they repeat the note before, pass by step, or go a
        step away and back. {count > 0 ? `${counted(count, "is", "are")} ghosted now.` : ""}
      </Text>
      <Flex gap="6px">
        <LineButton size="xs" disabled={safe.length === 0} onClick={() => mark(true)}>
          ghost them
        </LineButton>
        <LineButton size="xs" disabled={count === 0} onClick={() => mark(false)}>
          ghost none
        </LineButton>
      </Flex>
    </Fold>
  );
}

/** Another rhythm for the tune: set to a cell, or its even pairs dotted and snapped. Undo brings the old one back. */
function Reshape() {
  const bench = useBenchStore();
  const tune = useBench((s) => s.work.tune);
  const places = useBench((s) => s.derived.analysis.places);
  const change = useBench((s) => s.change);
  const fitting = useMemo(() => {
    const cells = CELLS.filter((c) => places[0] && cellFits(c, places[0]));
    return cells.map((cell) => ({ cell, ...setToCell(tune, cell) })).filter((set) => set.tune !== tune);
  }, [tune, places]);
  const simple = tune.metre.unit <= 4;
  const snap = (style: SnapStyle) => {
    const { plan } = bench.getState().derived;
    const inChord = (bar: number, event: number) => {
      const name = places[bar]?.bar.events[event]?.pitches.at(-1);
      const chord = plan.chords.findLast((c) => c.bar === bar);
      return name !== undefined && (parseChord(chord?.symbol ?? "")?.classes.includes(midi(name) % 12) ?? false);
    };
    change(`${style} pairs`, (w) => withTune(w, withSnaps(w.tune, style, inChord)));
  };
  return (
    <Fold title="Another rhythm for the tune">
      {fitting.map(({ cell, kept, tune: set }) => (
        <Flex key={cell.name} align="center" gap="8px" mb="4px" fontSize="14px">
          <Text flex="1">
            {cell.name}
            <Text as="span" color="quiet" fontSize="13px">
              {" "}
              keeps {Math.round(kept * 100)} of 100 beats
            </Text>
          </Text>
          <LineButton size="xs" onClick={() => change(`Set to ${cell.name.toLowerCase()}`, (w) => withTune(w, set))}>
            set
          </LineButton>
        </Flex>
      ))}
      {simple && (
        <Flex gap="6px" mt="8px" wrap="wrap">
          {SNAPS.map(({ name, says }) => (
            <LineButton key={name} size="xs" title={says} onClick={() => snap(name)}>
              {name.toLowerCase()} pairs
            </LineButton>
          ))}
        </Flex>
      )}
    </Fold>
  );
}

/** What tempo the dance is played at, by what it is for. */
function Tempos({ groove }: { groove: Groove }) {
  const tune = useBench((s) => s.work.tune);
  const setPercent = useBench((s) => s.setPercent);
  const written = feltBpm(tune);
  return (
    <Fold title="Tempos of this dance">
      {PURPOSES.map((purpose) => {
        const range = groove.tempo[purpose];
        const usual = Math.round(usualTempo(groove, tune.metre, purpose));
        return range ? (
          <Box key={purpose} display="flex" alignItems="center" gap="8px" mb="4px" fontSize="14px">
            <Text w="72px">{purpose}</Text>
            <Text flex="1">
              {range[0]}–{range[1]} in {groove.bar}
            </Text>
            <LineButton size="xs" onClick={() => setPercent((usual * 100) / written)}>
              play at {usual}
            </LineButton>
          </Box>
        ) : null;
      })}
    </Fold>
  );
}

/** One stroke: why it goes so, the other way with its price, and the lock. */
export function StrokePanel({ index }: { index: number }) {
  const plan = useBows();
  const turn = useBench((s) => s.turnStroke);
  const toggle = useBench((s) => s.toggleStrokeLock);
  const hear = useBench((s) => s.hear);
  const stroke = plan.strokes[index];
  const first = stroke?.notes[0];
  if (!stroke || !first) return <FeelPanel />;
  const name = (direction: string | null) => (direction === "down" ? "Down" : "Up");
  const { index: bar } = first.place;
  const many = stroke.notes.length > 1 ? `${stroke.notes.length} notes in one bow` : "one note";
  return (
    <>
      <PanelHead
        title={`${name(stroke.direction)}-bow, bar ${barLabel(first.place)}`}
        sub={`${many} · ${plan.style}${stroke.locked ? " · locked" : ""}`}
      />
      <Text mb="12px">{stroke.reason}</Text>
      <Block title="Which way">
        <ChoiceBar
          name={name(stroke.direction)}
          worth={1}
          note={stroke.locked ? "yours" : "best"}
          chosen
          keyName="L"
          onTake={toggle}
        />
        {stroke.alternatives.map((a) => (
          <ChoiceBar
            key={a.direction}
            name={name(a.direction)}
            worth={Math.exp(-Math.max(0, a.cost) / 4)}
            note={nearness(a.cost)}
            price={a.cost}
            keyName="↑"
            onTake={turn}
          />
        ))}
      </Block>
      <Flex gap="8px" mt="8px" wrap="wrap">
        <KeyButton onClick={toggle}>
          <Key>L</Key> {stroke.locked ? "free it" : "lock it"}
        </KeyButton>
        <KeyButton onClick={() => hear(bar, bar)}>
          <Key>H</Key> hear the bar
        </KeyButton>
      </Flex>
    </>
  );
}
