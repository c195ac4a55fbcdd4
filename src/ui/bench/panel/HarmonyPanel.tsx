"use client";
import { Flex, RadioGroup, Text } from "@chakra-ui/react";
import { addLine, changeLine, type DerivedLine, lineOf, removeLine, schoolBars } from "../../../core/ensemble";
import { SCHOOLS, type Side } from "../../../core/harmony";
import { LineButton } from "../../controls/buttons";
import { ChoiceRow, Picker } from "../../controls/Choice";
import { partOfLine } from "../layout";
import { useBench, type Which } from "../state";
import { Beside } from "./Beside";
import css from "./panel.module.css";
import { Block, ChoiceBar, clashWords, Downloads, Fold, PanelHead } from "./parts";
import { useStretch } from "./useStretch";

/** Clash from which a bar is worth a look. */
const RUB = 20;
const SIDES = ["below", "above"] as const;
const SCHOOL_NAMES = SCHOOLS.map((s) => s.name);

/** The school and the side of the first line, other schools bar by bar, and how all lines get on. */
export function HarmonyPanel() {
  const line = useBench((s) => s.derived.lines[0]);
  const locked = useBench((s) => lineOf(s.work, line?.id ?? null)?.locks.length ?? 0);
  const change = useBench((s) => s.change);
  if (!line) return <PanelHead title="No harmony line" sub="add one to hear the tune in two voices" />;
  const sub = `for ${line.instrument} · ${clashWords(line.clash)}${locked ? ` · ${locked} yours` : ""}`;
  return (
    <>
      <PanelHead title={`${line.side === "below" ? "Low" : "High"} harmony`} sub={sub} />
      <ChoiceRow
        label="Side"
        of={SIDES}
        now={line.side}
        words={(side) => `${side} the tune`}
        onTake={(side) => change(`Harmony ${side}`, (w) => changeLine(w, line.id, { side }))}
      />
      <Schools line={line} />
      <SecondLine />
      <TryIt line={line} />
      <Rubs line={line} />
      <OtherSchool line={line} />
      <BesideSchool line={line} />
      <Together />
      <Under />
      <Copies />
    </>
  );
}

/** What each school sounds like, in a few words; its rule is told when asked. */
const SOUNDS: Readonly<Record<string, string>> = {
  Thirds: "sweet and close",
  "Fourth under the tonic": "firmer at home",
  "Chord-fit": "goes with the chords",
  "High line": "calm, over the tune",
  "Nordic second": "a tune beside the tune",
  Octave: "the tune, fuller",
  "Drone and pedal": "earthy, one note held",
  "One note per chord": "slow and easy",
  "Counter-figure": "answers in the gaps",
};

function Schools({ line }: { line: DerivedLine }) {
  const change = useBench((s) => s.change);
  return (
    <RadioGroup.Root
      mt="8px"
      value={line.school}
      onValueChange={({ value }) =>
        value && change(`Harmony by ${value}`, (w) => changeLine(w, line.id, { school: value }))
      }
      aria-label="School"
    >
      {SCHOOLS.map(({ name, rule }) => (
        <RadioGroup.Item key={name} value={name} className={css.school} title={rule}>
          <RadioGroup.ItemHiddenInput />
          <RadioGroup.ItemText className={css.schoolText}>
            <span>{name}</span>
            <span>{SOUNDS[name] ?? rule}</span>
          </RadioGroup.ItemText>
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}

/** What is written under the notes. */
function Under() {
  const numbers = useBench((s) => s.numbers);
  const ghost = useBench((s) => s.ghost);
  const setNumbers = useBench((s) => s.setNumbers);
  const setGhost = useBench((s) => s.setGhost);
  return (
    <Flex gap="6px" mt="8px">
      <LineButton size="xs" even aria-pressed={numbers} onClick={() => setNumbers(!numbers)}>
        interval numbers
      </LineButton>
      <LineButton size="xs" even aria-pressed={ghost} onClick={() => setGhost(!ghost)}>
        where the third would be
      </LineButton>
    </Flex>
  );
}

/** A second line: added, changed and taken away in one list. */
function SecondLine() {
  const lines = useBench((s) => s.work.lines);
  const change = useBench((s) => s.change);
  const [first, second] = lines;
  const take = (value: string) => {
    const [, side, school = ""] = /^(below|above) (.*)$/.exec(value) ?? [];
    if (side !== "below" && side !== "above") {
      if (second) change("Second line taken away", (w) => removeLine(w, second.id));
      return;
    }
    change(`Second line by ${school}`, (w) =>
      second ? changeLine(w, second.id, { school, side }) : addLine(w, school, side),
    );
  };
  const free = (side: Side) =>
    SCHOOL_NAMES.filter((name) => name !== first?.school || side !== first.side).map((name) => ({
      value: `${side} ${name}`,
      words: `${name}, ${side}`,
    }));
  return (
    <Block title="A second line">
      <Picker
        label="Second line"
        of={[{ value: "", words: "none" }, ...free("above"), ...free("below")]}
        now={second ? `${second.side} ${second.school}` : ""}
        onTake={take}
      />
    </Block>
  );
}

const MOST_FAULTS = 5;
/** What the tune, the lines and a bass of roots do to each other. */
function Together() {
  const faults = useBench((s) => s.derived.faults);
  const { number } = useStretch();
  return (
    <Block title="All voices and a bass together">
      {faults.length === 0 && (
        <Text fontSize="14px">Nothing clashes on a beat, and nothing runs in fifths or octaves.</Text>
      )}
      {faults.slice(0, MOST_FAULTS).map((f) => (
        <Text key={`${f.bar}${f.voices}${f.what}`} fontSize="14px" lineHeight="20px">
          Bar {number(f.bar)}: {f.what} between {f.voices[0]} and {f.voices[1]}
        </Text>
      ))}
      {faults.length > MOST_FAULTS && (
        <Text fontSize="13px" color="quiet">
          and {faults.length - MOST_FAULTS} more
        </Text>
      )}
    </Block>
  );
}

function OtherSchool({ line }: { line: DerivedLine }) {
  const { from, to, stretch } = useStretch();
  const here = useBench(({ work }) => {
    const own = lineOf(work, line.id);
    return own?.bars.find((b) => b.bar === from)?.school ?? own?.school ?? "";
  });
  const change = useBench((s) => s.change);
  return (
    <Block title={`Another school for ${stretch} alone`}>
      <Picker
        label={`School for ${stretch}`}
        of={SCHOOL_NAMES}
        now={here}
        onTake={(school) => change(`${school} in ${stretch}`, (w) => schoolBars(w, line.id, from, to, school))}
      />
    </Block>
  );
}

function BesideSchool({ line }: { line: DerivedLine }) {
  const school = useBench((s) => s.school);
  const rival = useBench((s) => s.rivalLine);
  const setSchool = useBench((s) => s.setSchool);
  const change = useBench((s) => s.change);
  const { from, to, stretch } = useStretch();
  const keep = (which: Which) => {
    const kept = which === "ours" ? line.school : school;
    change(`${kept} in ${stretch}`, (w) => schoolBars(w, line.id, from, to, kept));
  };
  const others = SCHOOL_NAMES.filter((name) => name !== line.school);
  return (
    <Fold title="Beside another school">
      <Picker
        label="Compare with school"
        of={[{ value: "", words: "nothing" }, ...others]}
        now={school}
        onTake={setSchool}
      />
      {rival && (
        <>
          <Text
            fontSize="14px"
            mt="6px"
            title={`Clash ${line.clash.toFixed(1)} of 100 here, ${rival.clash.toFixed(1)} there`}
          >
            {clashWords(line.clash)} here, {clashWords(rival.clash)} there.
          </Text>
          <ClashPair ours={line.clashes} theirs={rival.clashes} />
          <Beside what="line" stretch={stretch} from={from} to={to} onKeep={keep} />
        </>
      )}
    </Fold>
  );
}

/** Clash bar by bar under both schools: up for this one, down for the other. */
function ClashPair({ ours, theirs }: { ours: readonly number[]; theirs: readonly number[] }) {
  const width = 100 / Math.max(1, ours.length);
  return (
    <svg
      viewBox="0 0 100 44"
      width="100%"
      height="56"
      preserveAspectRatio="none"
      role="img"
      aria-label={`Clash by bar: ${ours.join(", ")} against ${theirs.join(", ")}`}
    >
      {ours.map((clash, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: bars have no other name
        <g key={i}>
          <rect
            x={i * width + 0.3}
            width={width - 0.6}
            y={21 - clash * 0.4}
            height={Math.max(0.6, clash * 0.4)}
            fill="var(--chakra-colors-heather)"
          />
          <rect
            x={i * width + 0.3}
            width={width - 0.6}
            y={23}
            height={Math.max(0.6, (theirs[i] ?? 0) * 0.4)}
            fill="var(--chakra-colors-woad)"
          />
        </g>
      ))}
    </svg>
  );
}

function TryIt({ line }: { line: DerivedLine }) {
  const part = useBench((s) => partOfLine(s.derived.parts, line.id)?.id ?? "");
  const silent = useBench((s) => s.muted.has(part));
  const mute = useBench((s) => s.mute);
  const setTrying = useBench((s) => s.setTrying);
  return (
    <Block title="Try it yourself">
      <Flex gap="6px" wrap="wrap">
        <LineButton onClick={() => setTrying(true)}>third or fourth?</LineButton>
        <LineButton
          aria-pressed={silent}
          title="The tune sounds, your line is only shown (K)"
          onClick={() => mute(part)}
        >
          play it to the tune
        </LineButton>
      </Flex>
    </Block>
  );
}

function Copies() {
  const id = useBench((s) => s.id);
  const open = useBench((s) => s.work.tune.rights !== "unknown");
  const parts = useBench((s) => s.derived.parts);
  if (!open) return null;
  const ids = parts.filter((p) => p.role === "melody" || p.line !== null).map((p) => p.id);
  return (
    <Block title="Tune and lines together">
      <Downloads id={id} part={ids.join("+")} name="tune and lines" />
    </Block>
  );
}

function Rubs({ line }: { line: DerivedLine }) {
  const select = useBench((s) => s.select);
  const { number } = useStretch();
  const worst = line.clashes
    .map((clash, bar) => ({ clash, bar }))
    .filter((c) => c.clash >= RUB)
    .sort((a, b) => b.clash - a.clash)
    .slice(0, 3);
  if (worst.length === 0) return null;
  const look = (bar: number) => {
    const index = line.notes.findIndex((n) => n.bar === bar && n.pitch);
    if (index >= 0) select({ kind: "note", line: line.id, index });
  };
  return (
    <Block title="Where it clashes most">
      {worst.map(({ clash, bar }) => (
        <ChoiceBar
          key={bar}
          name={`bar ${number(bar)}`}
          worth={clash / 100}
          note={clash >= 50 ? "harsh" : "rough"}
          onTake={() => look(bar)}
        />
      ))}
    </Block>
  );
}
