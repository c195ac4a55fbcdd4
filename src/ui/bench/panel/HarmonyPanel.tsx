"use client";
import { Box, Flex, RadioGroup, Text } from "@chakra-ui/react";
import { addLine, changeLine, type DerivedLine, lineOf, removeLine, schoolBars } from "../../../core/ensemble";
import { SCHOOLS, type Side } from "../../../core/harmony";
import { LineButton, SolidButton } from "../../controls/buttons";
import { ChoiceRow, Picker } from "../../controls/Choice";
import { partOfLine } from "../layout";
import { useBench } from "../state";
import { Block, ChoiceBar, Downloads, PanelHead } from "./parts";
import { barLabelAt } from "../../../core/score";

/** Clash from which a bar is worth a look. */
const RUB = 20;
const SIDES = ["below", "above"] as const;
const SCHOOL_NAMES = SCHOOLS.map((s) => s.name);

/** The bars that are looped, or the one looked at, and what they are called. */
function useStretch() {
  const from = useBench((s) => s.loop?.from ?? s.bar);
  const to = useBench((s) => s.loop?.to ?? s.bar);
  const places = useBench((s) => s.derived.analysis.places);
  const number = (index: number) => barLabelAt(places, index);
  const one = number(from) === "0" ? "the pickup" : `bar ${number(from)}`;
  return { from, to, number, stretch: from === to ? one : `bars ${number(from)} to ${number(to)}` };
}

/** The school and the side of the first line, other schools bar by bar, and how all lines get on. */
export function HarmonyPanel() {
  const line = useBench((s) => s.derived.lines[0]);
  const locked = useBench((s) => lineOf(s.work, line?.id ?? null)?.locks.length ?? 0);
  const change = useBench((s) => s.change);
  if (!line) return <PanelHead title="No harmony line" sub="add one to hear the tune in two voices" />;
  const sub = `for ${line.instrument} · clash ${line.clash.toFixed(1)} of 100${locked ? ` · ${locked} yours` : ""}`;
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
      <Under />
      <SecondLine />
      <Together />
      <OtherSchool line={line} />
      <BesideSchool line={line} />
      <TryIt line={line} />
      <Copies />
      <Rubs line={line} />
    </>
  );
}

function Schools({ line }: { line: DerivedLine }) {
  const change = useBench((s) => s.change);
  return (
    <RadioGroup.Root
      mt="6px"
      value={line.school}
      onValueChange={({ value }) =>
        value && change(`Harmony by ${value}`, (w) => changeLine(w, line.id, { school: value }))
      }
      aria-label="School"
    >
      {SCHOOLS.map((school) => {
        const own = line.school === school.name;
        return (
          <RadioGroup.Item
            key={school.name}
            value={school.name}
            py="4px"
            borderTop="1px solid"
            borderColor="cord"
            w="100%"
            alignItems="flex-start"
            cursor="pointer"
            title={school.rule}
          >
            <RadioGroup.ItemHiddenInput />
            <RadioGroup.ItemIndicator
              mt="3px"
              borderColor="quiet"
              _checked={{ bg: "heather", borderColor: "heather", color: "fleece" }}
            />
            <RadioGroup.ItemText>
              <Text as="span" fontWeight={own ? "700" : "500"} display="block" lineHeight="20px">
                {school.name}
              </Text>
              {own && (
                <Text as="span" fontSize="13px" color="quiet" lineHeight="17px" display="block">
                  {school.rule}
                </Text>
              )}
            </RadioGroup.ItemText>
          </RadioGroup.Item>
        );
      })}
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
        <Text fontSize="14px">Nothing rubs on a beat, and nothing runs in fifths or octaves.</Text>
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
    <Block title={`Another school for ${stretch}`}>
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
  const hear = useBench((s) => s.hearLine);
  const { from, to } = useStretch();
  const others = SCHOOL_NAMES.filter((name) => name !== line.school);
  return (
    <Block title="Beside another school">
      <Picker
        label="Compare with school"
        of={[{ value: "", words: "nothing" }, ...others]}
        now={school}
        onTake={setSchool}
      />
      {rival && (
        <>
          <Text fontSize="14px" mt="6px">
            Clash {line.clash.toFixed(1)} here, {rival.clash.toFixed(1)} there.
          </Text>
          <ClashPair ours={line.clashes} theirs={rival.clashes} />
          <Flex gap="6px" mt="6px">
            <LineButton onClick={() => hear(from, to, "ours")}>hear this</LineButton>
            <LineButton onClick={() => hear(from, to, "theirs")}>hear the other</LineButton>
          </Flex>
          <BlindTest line={line} />
        </>
      )}
    </Block>
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

/** Two lines in an order nobody sees; the one kept goes into the bars listened to. */
function BlindTest({ line }: { line: DerivedLine }) {
  const blind = useBench((s) => s.blind);
  const school = useBench((s) => s.school);
  const setBlind = useBench((s) => s.setBlind);
  const hear = useBench((s) => s.hearLine);
  const change = useBench((s) => s.change);
  const { from, to, stretch } = useStretch();
  const shuffle = () => setBlind(Math.random() < 0.5 ? { A: "ours", B: "theirs" } : { A: "theirs", B: "ours" });
  if (!blind) {
    return (
      <LineButton mt="6px" onClick={shuffle}>
        choose blind for {stretch}
      </LineButton>
    );
  }
  const keep = (which: "ours" | "theirs") => {
    const kept = which === "ours" ? line.school : school;
    change(`${kept} in ${stretch}`, (w) => schoolBars(w, line.id, from, to, kept));
    setBlind(null);
  };
  return (
    <Box mt="8px" bg="linen" borderRadius="6px" p="10px">
      <Text fontSize="14px" mb="6px">
        Listen to both, then keep one for {stretch}.
      </Text>
      <Flex gap="6px" wrap="wrap">
        {(["A", "B"] as const).map((name) => (
          <Flex key={name} gap="4px" align="center">
            <LineButton onClick={() => hear(from, to, blind[name])}>hear {name}</LineButton>
            <SolidButton onClick={() => keep(blind[name])}>keep {name}</SolidButton>
          </Flex>
        ))}
      </Flex>
    </Box>
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
          note={String(clash)}
          onTake={() => look(bar)}
        />
      ))}
    </Block>
  );
}
