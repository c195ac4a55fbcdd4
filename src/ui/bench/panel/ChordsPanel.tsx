"use client";
import { Box, Flex, RadioGroup, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useMemo } from "react";
import { type ChordPlan, comparePlans, STYLES } from "../../../core/chords";
import { FILE_CHORDS } from "../../../core/ensemble";
import { BACKINGS } from "../../../core/performance";
import { CHORD_NAMES, nameChord, parseChord } from "../../../core/theory";
import { LineButton } from "../../controls/buttons";
import { ChoiceRow, Picker } from "../../controls/Choice";
import { counted } from "../../signs";
import { useBench } from "../state";
import { useChordNames } from "../useChordNames";
import { Block, ChoiceBar, PanelHead } from "./parts";
import { SongSheetBox } from "./SongSheetBox";
import { barLabelAt } from "../../../core/score";

const STYLE_WORDS: ReadonlyMap<string, string> = new Map([
  ["Three-chord", "tonic, subdominant and dominant, or the flat seventh where the mode has it"],
  ["Two-chord", "the tonic and one other"],
  ["Dance band", "all the triads of the mode, as a dance band moves through them"],
  ["Modal", "open fifths that take no side, and the flat seventh"],
  [
    "Colour",
    "the dance band’s chords with sevenths, suspensions, borrowed dominants and a bass that walks, each removable",
  ],
]);

const percent = (share: number) => `${Math.round(100 * share)} %`;
const total = (numbers: readonly number[]) => numbers.reduce((a, b) => a + b, 0);

/** How long each chord of a plan sounds, in ticks, the longest first. */
function used({ chords }: ChordPlan): [symbol: string, ticks: number][] {
  const ticks = new Map<string, number>();
  for (const c of chords) ticks.set(c.symbol, (ticks.get(c.symbol) ?? 0) + c.ticks);
  return [...ticks].sort((a, b) => b[1] - a[1]);
}

/** The chords at a glance, ways to write, hear and compare them, and the places where taste decides. */
export function ChordsPanel() {
  const plan = useBench((s) => s.derived.plan);
  const own = useBench((s) => s.work.locks.length);
  const printed = useBench((s) => s.work.tune.strains.some((t) => t.bars.some((b) => b.chords.length > 0)));
  const fit = total(plan.fits) / (plan.fits.length || 1);
  return (
    <>
      <PanelHead
        title={counted(used(plan).length, "chord")}
        sub={`fit the melody ${percent(fit)}${own ? ` · ${own} locked by you` : ""}`}
      />
      <Styles />
      <WrittenAndHeard />
      <Shares plan={plan} />
      <CloseCalls plan={plan} />
      <Compare printed={printed} />
      {printed && <Printed />}
      <OnPaper />
    </>
  );
}

function Styles() {
  const style = useBench((s) => s.work.style);
  const change = useBench((s) => s.change);
  return (
    <>
      <RadioGroup.Root
        value={style}
        onValueChange={({ value }) => value && change(`Chords in ${value} style`, (w) => ({ ...w, style: value }))}
        aria-label="Style"
      >
        <Flex wrap="wrap" gap="4px 14px">
          {STYLES.map(({ name }) => (
            <RadioGroup.Item key={name} value={name} cursor="pointer" title={STYLE_WORDS.get(name)}>
              <RadioGroup.ItemHiddenInput />
              <RadioGroup.ItemIndicator
                borderColor="quiet"
                _checked={{ bg: "lichen", borderColor: "lichen", color: "fleece" }}
              />
              <RadioGroup.ItemText fontWeight={style === name ? "700" : "400"}>{name}</RadioGroup.ItemText>
            </RadioGroup.Item>
          ))}
        </Flex>
      </RadioGroup.Root>
      <Text fontSize="13px" color="quiet" mt="4px" mb="8px">
        {STYLE_WORDS.get(style)}
      </Text>
    </>
  );
}

function WrittenAndHeard() {
  const { names, setNames } = useChordNames();
  const backing = useBench((s) => s.work.backing);
  const change = useBench((s) => s.change);
  return (
    <Box display="grid" gap="4px">
      <ChoiceRow label="Written as" of={CHORD_NAMES} now={names} onTake={(n) => void setNames(n)} />
      <ChoiceRow
        label="Heard as"
        of={BACKINGS}
        now={backing}
        words={(b) => (b === "block" ? "held chords" : b)}
        onTake={(b) => change(`Chords heard as ${b}`, (w) => ({ ...w, backing: b }))}
      />
    </Box>
  );
}

const MOST_SHARES = 8;
function Shares({ plan }: { plan: ChordPlan }) {
  const key = useBench((s) => s.derived.analysis.places[0]?.key);
  const { names } = useChordNames();
  const chords = used(plan);
  const all = total(chords.map(([, ticks]) => ticks)) || 1;
  return (
    <Block title="Share of the tune">
      {chords.slice(0, MOST_SHARES).map(([symbol, ticks]) => (
        <Flex key={symbol} align="center" gap="8px" h="24px">
          <Text minW="44px" fontWeight="700">
            {key ? nameChord(symbol, key, names) : symbol}
          </Text>
          <Box h="10px" borderRadius="2px" bg="lichen" w={`${(ticks / all) * 160}px`} />
          <Text fontSize="13px" color="quiet">
            {percent(ticks / all)}
          </Text>
        </Flex>
      ))}
      {chords.length > MOST_SHARES && (
        <Text fontSize="13px" color="quiet">
          and {chords.length - MOST_SHARES} more
        </Text>
      )}
    </Block>
  );
}

/** How near a runner-up of another root comes before it is worth a listen. */
const NEAR = 1.5;
const rootOf = (symbol: string) => parseChord(symbol)?.root;
function CloseCalls({ plan }: { plan: ChordPlan }) {
  const places = useBench((s) => s.derived.analysis.places);
  const select = useBench((s) => s.select);
  const close = plan.chords
    .flatMap((chord, index) => {
      const [rival] = chord.alternatives;
      const near = rival && rival.cost < NEAR && !chord.locked && rootOf(chord.symbol) !== rootOf(rival.symbol);
      return near ? [{ chord, index, rival }] : [];
    })
    .sort((a, b) => a.rival.cost - b.rival.cost)
    .slice(0, 4);
  if (close.length === 0) return null;
  return (
    <Block title="Worth a listen: another chord is as near">
      {close.map(({ chord, index, rival }) => (
        <ChoiceBar
          key={index}
          name={`bar ${barLabelAt(places, chord.bar)}`}
          worth={Math.exp(-rival.cost / 2)}
          note={`${chord.symbol} or ${rival.symbol}`}
          onTake={() => select({ kind: "chord", index })}
        />
      ))}
    </Block>
  );
}

const MOST_BARS = 12;
function Compare({ printed }: { printed: boolean }) {
  const style = useBench((s) => s.work.style);
  const rival = useBench((s) => s.rival);
  const other = useBench((s) => s.rivalPlan);
  const plan = useBench((s) => s.derived.plan);
  const places = useBench((s) => s.derived.analysis.places);
  const setRival = useBench((s) => s.setRival);
  const takeBar = useBench((s) => s.takeRivalBar);
  const compared = useMemo(() => (other ? comparePlans(plan, other, places) : null), [plan, other, places]);
  const styles = STYLES.filter((s) => s.name !== style).map((s) => ({ value: s.name, words: `${s.name} style` }));
  const options = [
    { value: "", words: "nothing" },
    ...styles,
    ...(printed ? [{ value: FILE_CHORDS, words: "the chords of the file" }] : []),
  ];
  return (
    <Block title="Compare with other chords">
      <Picker label="Compare with" of={options} now={rival} onTake={setRival} />
      {compared && (
        <>
          <Text fontSize="14px" mt="6px">
            {agreementWords(compared)}
          </Text>
          {compared.bars.slice(0, MOST_BARS).map(({ bar, ours, theirs }) => (
            <Flex
              key={bar}
              align="center"
              gap="8px"
              minH="34px"
              borderTop="1px solid"
              borderColor="cord"
              fontSize="14px"
            >
              <Text w="44px" color="quiet">
                bar {barLabelAt(places, bar)}
              </Text>
              <Text flex="1">
                <b>{ours.join(" ")}</b> or {theirs.join(" ") || "none"}
              </Text>
              <LineButton
                size="xs"
                aria-label={`Take ${theirs.join(" ")} in bar ${barLabelAt(places, bar)}`}
                onClick={() => takeBar(bar)}
              >
                take
              </LineButton>
            </Flex>
          ))}
          {compared.bars.length > MOST_BARS && (
            <Text fontSize="13px" color="quiet">
              The rows show the others.
            </Text>
          )}
        </>
      )}
    </Block>
  );
}

function agreementWords({ bars, agreement }: ReturnType<typeof comparePlans>): string {
  if (bars.length === 0) return "Every bar reads the same.";
  const others = `${counted(bars.length, "bar reads", "bars read")} otherwise`;
  return `The same for ${percent(agreement)} of the time by root and third; ${others}.`;
}

function Printed() {
  const kept = useBench((s) => s.work.fileChords);
  const change = useBench((s) => s.change);
  const step = kept ? "Chords derived anew" : "Chords of the file kept";
  return (
    <Block title="Chords printed in the file">
      <LineButton aria-pressed={kept} onClick={() => change(step, (w) => ({ ...w, fileChords: !w.fileChords }))}>
        {kept ? "Derive them instead" : "Keep them as printed"}
      </LineButton>
    </Block>
  );
}

function OnPaper() {
  const id = useBench((s) => s.id);
  const open = useBench((s) => s.work.tune.rights !== "unknown");
  const { names } = useChordNames();
  return (
    <Block title="On paper">
      <Flex gap="14px" fontSize="14px" color="woad" wrap="wrap">
        <Link href={`/tune/${id}/chart?as=${names}`} style={{ textDecoration: "underline" }}>
          Chord chart
        </Link>
        {open && (
          <a href={`/tune/${id}/files/all.cho`} download style={{ textDecoration: "underline" }}>
            ChordPro
          </a>
        )}
      </Flex>
      <SongSheetBox />
    </Block>
  );
}
