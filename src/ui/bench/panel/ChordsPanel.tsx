"use client";
import { Box, Flex, RadioGroup, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useMemo } from "react";
import { type ChordPlan, comparePlans, STYLES } from "../../../core/chords";
import { changeStyle, FILE_CHORDS } from "../../../core/ensemble";
import { BACKINGS } from "../../../core/performance";
import { CHORD_NAMES, nameChord, parseChord } from "../../../core/theory";
import { LineButton, LinkButton } from "../../controls/buttons";
import { ChoiceRow, Picker } from "../../controls/Choice";
import { counted, signed } from "../../signs";
import { useBench } from "../state";
import { useChordNames } from "../useChordNames";
import { Beside } from "./Beside";
import { DiagramsSwitch } from "./hands/ChordShapes";
import { Block, ChoiceBar, Fold, PanelHead } from "./parts";
import { useStretch } from "./useStretch";
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
/** How well chords go with a melody, in words, by the share of its time that fits. */
const FITS: readonly [least: number, words: string][] = [
  [0.85, "they go well with the tune"],
  [0.7, "they go with most of the tune"],
];
const fitWords = (fit: number) => FITS.find(([least]) => fit >= least)?.[1] ?? "the tune often leaves them";
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
  const own = useBench((s) => s.work.locks.filter((l) => !l.kept).length);
  const printed = useBench((s) => s.work.tune.strains.some((t) => t.bars.some((b) => b.chords.length > 0)));
  const fit = total(plan.fits) / (plan.fits.length || 1);
  return (
    <>
      <PanelHead
        title={counted(used(plan).length, "chord")}
        sub={`${fitWords(fit)}${own ? ` · ${own} locked by you` : ""}`}
        figure={`${percent(fit)} of the melody’s time is in its chord or passes through it`}
      />
      <Styles />
      <Kept />
      <CloseCalls plan={plan} />
      {printed && <Printed />}
      <Compare printed={printed} />
      <WrittenAndHeard />
      <DiagramsSwitch />
      <OnPaper />
      <Shares plan={plan} />
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
        onValueChange={({ value }) => value && change(`Chords in ${value} style`, (w) => changeStyle(w, value))}
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

/** Chords that were unlocked and still stand as they were chosen. */
function Kept() {
  const kept = useBench((s) => s.work.locks.filter((l) => l.kept).length);
  const style = useBench((s) => s.work.style);
  const change = useBench((s) => s.change);
  if (kept === 0) return null;
  return (
    <Text fontSize="14px">
      {counted(kept, "chord is", "chords are")} unlocked and still as you chose.{" "}
      <LinkButton onClick={() => change("Chords worked out anew", (w) => changeStyle(w, style))}>
        work them out anew
      </LinkButton>
    </Text>
  );
}

function WrittenAndHeard() {
  const { names, setNames } = useChordNames();
  const backing = useBench((s) => s.work.backing);
  const change = useBench((s) => s.change);
  return (
    <Box display="grid" gap="4px" mt="16px">
      <Text fontSize="13px" color="quiet">
        Written as, and heard as
      </Text>
      <ChoiceRow label="Written as" of={CHORD_NAMES} now={names} onTake={(n) => void setNames(n)} />
      <ChoiceRow
        label="Heard as"
        of={BACKINGS}
        now={backing}
        words={(b) => (b === "block" ? "held" : b)}
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
    <Fold title="How much of the tune each takes">
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
    </Fold>
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
          note={`${signed(chord.symbol)} or ${signed(rival.symbol)}`}
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
  const take = useBench((s) => s.takeRivalBars);
  const { from, to, stretch } = useStretch();
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
          <Beside
            what="plan"
            stretch={stretch}
            from={from}
            to={to}
            onKeep={(which) => which === "theirs" && take(from, to)}
          />
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
              <Text w="52px" color="quiet" whiteSpace="nowrap">
                bar {barLabelAt(places, bar)}
              </Text>
              <Text flex="1">
                <b>{ours.map(signed).join(" ")}</b> or {theirs.map(signed).join(" ") || "none"}
              </Text>
              <LineButton
                size="xs"
                aria-label={`Take ${theirs.join(" ")} in bar ${barLabelAt(places, bar)}`}
                onClick={() => take(bar, bar)}
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
  const step = kept ? "Chords worked out anew" : "Chords of the file kept";
  return (
    <Block title="Chords printed in the file">
      <LineButton aria-pressed={kept} onClick={() => change(step, (w) => ({ ...w, fileChords: !w.fileChords }))}>
        {kept ? "Work them out instead" : "Keep them as printed"}
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
