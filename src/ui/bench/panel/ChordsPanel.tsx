"use client";
import { Box, Button, Flex, NativeSelect, RadioGroup, Text } from "@chakra-ui/react";
import Link from "next/link";
import { STYLES } from "../../../core/chords";
import { type Derived, FILE_CHORDS } from "../../../core/ensemble";
import { BACKINGS } from "../../../core/performance";
import { CHORD_NAMES, nameChord, parseChord } from "../../../core/theory";
import type { Selection } from "../lenses";
import type { BenchState } from "../useBench";
import type { RivalState } from "../useRival";
import { Block, ChoiceRow, PanelHead } from "./parts";
import { SongSheetBox } from "./SongSheetBox";

const STYLE_WORDS: Record<string, string> = {
  "Three-chord": "tonic, subdominant and dominant, or the flat seventh where the mode has it",
  "Two-chord": "the tonic and one other",
  "Dance band": "all the triads of the mode, as a dance band moves through them",
  Modal: "open fifths that take no side, and the flat seventh",
  Colour:
    "the dance band’s chords with sevenths, suspensions, borrowed dominants and a bass that walks, each removable",
};

const percent = (share: number) => `${Math.round(100 * share)} %`;

/** The chords at a glance, ways to write, hear and compare them, and the places where taste decides. */
export function ChordsPanel({
  bench,
  derived,
  rival,
  onSelect,
}: {
  bench: BenchState;
  derived: Derived;
  rival: RivalState;
  onSelect: (next: Selection) => void;
}) {
  const { plan, analysis } = derived;
  const { work } = bench;
  const used = new Map<string, number>();
  for (const c of plan.chords) used.set(c.symbol, (used.get(c.symbol) ?? 0) + c.ticks);
  const all = [...used.values()].reduce((a, b) => a + b, 0) || 1;
  const close = plan.chords
    .map((chord, index) => ({ chord, index, gap: chord.alternatives[0]?.cost ?? 99 }))
    .filter(
      ({ chord, gap }) =>
        !chord.locked &&
        gap < 1.5 &&
        parseChord(chord.symbol)?.root !== parseChord(chord.alternatives[0]?.symbol ?? "")?.root,
    )
    .sort((a, b) => a.gap - b.gap)
    .slice(0, 4);
  const printed = work.tune.strains.some((s) => s.bars.some((b) => b.chords.length > 0));
  const own = work.locks.length;
  const fit = plan.fits.reduce((a, b) => a + b, 0) / (plan.fits.length || 1);
  const first = analysis.places[0];
  return (
    <>
      <PanelHead
        title={`${used.size} ${used.size === 1 ? "chord" : "chords"}`}
        sub={`fit the melody ${percent(fit)}${own ? ` · ${own} locked by you` : ""}`}
      />
      <RadioGroup.Root
        value={work.style}
        onValueChange={({ value }) =>
          value && bench.change(`Chords in ${value} style`, (w) => ({ ...w, style: value }))
        }
        aria-label="Style"
      >
        <Flex wrap="wrap" gap="4px 14px">
          {STYLES.map((style) => (
            <RadioGroup.Item key={style.name} value={style.name} cursor="pointer" title={STYLE_WORDS[style.name]}>
              <RadioGroup.ItemHiddenInput />
              <RadioGroup.ItemIndicator
                borderColor="quiet"
                _checked={{ bg: "lichen", borderColor: "lichen", color: "fleece" }}
              />
              <RadioGroup.ItemText fontWeight={plan.style === style.name ? "700" : "400"}>
                {style.name}
              </RadioGroup.ItemText>
            </RadioGroup.Item>
          ))}
        </Flex>
      </RadioGroup.Root>
      <Text fontSize="13px" color="quiet" mt="4px" mb="8px">
        {STYLE_WORDS[plan.style]}
      </Text>
      <Flex gap="4px" role="group" aria-label="Written as" mb="4px">
        {CHORD_NAMES.map((names) => (
          <Choice key={names} on={rival.names === names} onTake={() => rival.setNames(names)}>
            {names}
          </Choice>
        ))}
      </Flex>
      <Flex gap="4px" role="group" aria-label="Heard as">
        {BACKINGS.map((backing) => (
          <Choice
            key={backing}
            on={work.backing === backing}
            onTake={() => bench.change(`Chords heard as ${backing}`, (w) => ({ ...w, backing }))}
          >
            {backing === "block" ? "held chords" : backing}
          </Choice>
        ))}
      </Flex>
      <Block title="Share of the tune">
        {[...used]
          .sort((a, b) => b[1] - a[1])
          .slice(0, 8)
          .map(([symbol, ticks]) => (
            <Flex key={symbol} align="center" gap="8px" h="24px">
              <Text minW="44px" fontWeight="700">
                {first ? nameChord(symbol, first.key, rival.names) : symbol}
              </Text>
              <Box h="10px" borderRadius="2px" bg="lichen" w={`${(ticks / all) * 160}px`} />
              <Text fontSize="13px" color="quiet">
                {percent(ticks / all)}
              </Text>
            </Flex>
          ))}
        {used.size > 8 && (
          <Text fontSize="13px" color="quiet">
            and {used.size - 8} more
          </Text>
        )}
      </Block>
      {close.length > 0 && (
        <Block title="Worth a listen: the runner-up is close">
          {close.map(({ chord, index, gap }) => (
            <ChoiceRow
              key={index}
              name={`bar ${analysis.places[chord.bar]?.number}`}
              worth={Math.exp(-gap / 2)}
              note={`${chord.symbol} or ${chord.alternatives[0]?.symbol}`}
              onTake={() => onSelect({ kind: "chord", index })}
            />
          ))}
        </Block>
      )}
      <Block title="Compare with another plan">
        <NativeSelect.Root size="sm">
          <NativeSelect.Field
            aria-label="Compare with"
            bg="fleece"
            borderColor="cord"
            value={rival.other}
            onChange={(e) => rival.setOther(e.target.value)}
          >
            <option value="">nothing</option>
            {STYLES.filter((s) => s.name !== work.style).map((s) => (
              <option key={s.name} value={s.name}>
                {s.name} style
              </option>
            ))}
            {printed && <option value={FILE_CHORDS}>the chords of the file</option>}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
        {rival.compared && (
          <>
            <Text fontSize="14px" mt="6px">
              {rival.compared.bars.length === 0
                ? "Every bar reads the same."
                : `The same for ${percent(rival.compared.agreement)} of the time by root and third; ${rival.compared.bars.length} ${rival.compared.bars.length === 1 ? "bar reads" : "bars read"} otherwise.`}
            </Text>
            {rival.compared.bars.slice(0, 12).map((bar) => (
              <Flex
                key={bar.bar}
                align="center"
                gap="8px"
                minH="34px"
                borderTop="1px solid"
                borderColor="cord"
                fontSize="14px"
              >
                <Text w="44px" color="quiet">
                  bar {analysis.places[bar.bar]?.number}
                </Text>
                <Text flex="1">
                  <b>{bar.ours.join(" ")}</b> or {bar.theirs.join(" ") || "none"}
                </Text>
                <Button
                  size="xs"
                  variant="outline"
                  borderColor="cord"
                  color="ink"
                  aria-label={`Take ${bar.theirs.join(" ")} in bar ${analysis.places[bar.bar]?.number}`}
                  onClick={() => rival.takeBar(bar.bar)}
                >
                  take
                </Button>
              </Flex>
            ))}
            {rival.compared.bars.length > 12 && (
              <Text fontSize="13px" color="quiet">
                The rows show the others.
              </Text>
            )}
          </>
        )}
      </Block>
      {printed && (
        <Block title="Chords printed in the file">
          <Button
            variant="outline"
            size="sm"
            borderColor="quiet"
            color="ink"
            aria-pressed={work.fileChords}
            onClick={() =>
              bench.change(work.fileChords ? "Chords derived anew" : "Chords of the file kept", (w) => ({
                ...w,
                fileChords: !w.fileChords,
              }))
            }
          >
            {work.fileChords ? "Derive them instead" : "Keep them as printed"}
          </Button>
        </Block>
      )}
      <Block title="On paper">
        <Flex gap="14px" fontSize="14px" color="woad" wrap="wrap">
          <Link href={`/tune/${bench.id}/chart?as=${rival.names}`} style={{ textDecoration: "underline" }}>
            Chord chart
          </Link>
          {work.tune.rights !== "unknown" && (
            <a href={`/tune/${bench.id}/files/all.cho`} download style={{ textDecoration: "underline" }}>
              ChordPro
            </a>
          )}
        </Flex>
        <SongSheetBox bench={bench} derived={derived} />
      </Block>
    </>
  );
}

const Choice = ({ on, onTake, children }: { on: boolean; onTake: () => void; children: string }) => (
  <Button
    size="xs"
    h="28px"
    flex="1"
    variant="outline"
    borderColor={on ? "ink" : "cord"}
    bg={on ? "block" : "transparent"}
    color={on ? "onBlock" : "ink"}
    fontWeight="500"
    aria-pressed={on}
    onClick={onTake}
  >
    {children}
  </Button>
);
