"use client";
import { Box, Button, Flex, RadioGroup, Text } from "@chakra-ui/react";
import { STYLES } from "../../../core/chords";
import type { Derived } from "../../../core/ensemble";
import { SCHOOLS } from "../../../core/harmony";
import { parseChord } from "../../../core/theory";
import type { Selection } from "../lenses";
import type { BenchState } from "../useBench";
import { Block, ChoiceRow, PanelHead } from "./parts";

const STYLE_WORDS: Record<string, string> = {
  "Three-chord": "tonic, subdominant and dominant, or the flat seventh where the mode has it", "Two-chord": "the tonic and one other",
  "Dance band": "all the triads of the mode, as a dance band moves through them", Modal: "open fifths that take no side, and the flat seventh",
};

/** The chords at a glance, and the places where taste decides. */
export function ChordsPanel({ bench, derived, onSelect }: { bench: BenchState; derived: Derived; onSelect: (next: Selection) => void }) {
  const { plan, analysis } = derived;
  const used = new Map<string, number>();
  for (const c of plan.chords) used.set(c.symbol, (used.get(c.symbol) ?? 0) + c.ticks);
  const all = [...used.values()].reduce((a, b) => a + b, 0) || 1;
  const close = plan.chords.map((chord, index) => ({ chord, index, gap: chord.alternatives[0]?.cost ?? 99 })).filter(({ chord, gap }) => !chord.locked && gap < 1.5 && parseChord(chord.symbol)?.root !== parseChord(chord.alternatives[0]?.symbol ?? "")?.root).sort((a, b) => a.gap - b.gap).slice(0, 4);
  const printed = bench.work.tune.strains.some((s) => s.bars.some((b) => b.chords.length > 0));
  const own = bench.work.locks.length;
  return (
    <>
      <PanelHead title={`${used.size} ${used.size === 1 ? "chord" : "chords"}`} sub={`${plan.style} style${own ? ` · ${own} locked by you` : ""}`} />
      <RadioGroup.Root value={bench.work.style} onValueChange={({ value }) => value && bench.change(`Chords in ${value} style`, (w) => ({ ...w, style: value }))} aria-label="Style">
        <Flex wrap="wrap" gap="4px 14px">
          {STYLES.map((style) => (
            <RadioGroup.Item key={style.name} value={style.name} cursor="pointer" title={STYLE_WORDS[style.name]}>
              <RadioGroup.ItemHiddenInput />
              <RadioGroup.ItemIndicator borderColor="quiet" _checked={{ bg: "lichen", borderColor: "lichen", color: "fleece" }} />
              <RadioGroup.ItemText fontWeight={plan.style === style.name ? "700" : "400"}>{style.name}</RadioGroup.ItemText>
            </RadioGroup.Item>
          ))}
        </Flex>
      </RadioGroup.Root>
      <Text fontSize="13px" color="quiet" mt="4px" mb="8px">{STYLE_WORDS[plan.style]}</Text>
      <Text>Click a chord to see why it stands there. What you choose stays, and the others are planned around it.</Text>
      <Block title="Share of the tune">
        {[...used].sort((a, b) => b[1] - a[1]).map(([symbol, ticks]) => (
          <Flex key={symbol} align="center" gap="8px" h="24px">
            <Text w="44px" fontWeight="700">{symbol}</Text>
            <Box h="10px" borderRadius="2px" bg="lichen" w={`${(ticks / all) * 170}px`} />
            <Text fontSize="13px" color="quiet">{Math.round((100 * ticks) / all)} %</Text>
          </Flex>
        ))}
      </Block>
      {close.length > 0 && (
        <Block title="Worth a listen: the runner-up is close">
          {close.map(({ chord, index, gap }) => (
            <ChoiceRow key={index} name={`bar ${analysis.places[chord.bar]?.number}`} worth={Math.exp(-gap / 2)} note={`${chord.symbol} or ${chord.alternatives[0]?.symbol}`} onTake={() => onSelect({ kind: "chord", index })} />
          ))}
        </Block>
      )}
      {printed && (
        <Block title="Chords printed in the file">
          <Button variant="outline" size="sm" borderColor="quiet" color="ink" aria-pressed={bench.work.fileChords} onClick={() => bench.change(bench.work.fileChords ? "Chords derived anew" : "Chords of the file kept", (w) => ({ ...w, fileChords: !w.fileChords }))}>
            {bench.work.fileChords ? "Derive them instead" : "Keep them as printed"}
          </Button>
        </Block>
      )}
    </>
  );
}

const RULES: Record<string, string> = {
  Thirds: "a third all the way",
  "Fourth under the tonic": "a third, but a fourth where the melody is on the tonic",
  "Chord-fit": "third or fourth, whichever is in the chord",
};

/** The school, the side, and how the two lines get on. */
export function HarmonyPanel({ bench, derived, onSelect }: { bench: BenchState; derived: Derived; onSelect: (next: Selection) => void }) {
  const { line, analysis } = derived;
  const worst = line.clashes.map((clash, bar) => ({ clash, bar })).filter((c) => c.clash >= 20).sort((a, b) => b.clash - a.clash).slice(0, 4);
  return (
    <>
      <PanelHead title={`${line.side === "below" ? "Low" : "High"} harmony`} sub={`for ${line.instrument} · clash ${line.clash.toFixed(1)} of 100`} />
      <Text mb="10px">Click a note of the second staff to see the rule that chose it.</Text>
      <RadioGroup.Root value={line.school} onValueChange={({ value }) => value && bench.change(`Harmony by ${value}`, (w) => ({ ...w, school: value }))} aria-label="School">
        {SCHOOLS.map((school) => (
          <RadioGroup.Item key={school.name} value={school.name} py="7px" borderTop="1px solid" borderColor="cord" w="100%" alignItems="flex-start" cursor="pointer">
            <RadioGroup.ItemHiddenInput />
            <RadioGroup.ItemIndicator mt="3px" borderColor="quiet" _checked={{ bg: "heather", borderColor: "heather", color: "fleece" }} />
            <RadioGroup.ItemText><Text as="span" fontWeight="700" display="block">{school.name}</Text><Text as="span" fontSize="13px" color="quiet">{RULES[school.name]}</Text></RadioGroup.ItemText>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      <Flex mt="10px" gap="6px" role="group" aria-label="Side">
        {(["below", "above"] as const).map((side) => (
          <Button key={side} size="sm" flex="1" variant="outline" borderColor={line.side === side ? "ink" : "cord"} bg={line.side === side ? "block" : "transparent"} color={line.side === side ? "onBlock" : "ink"} aria-pressed={line.side === side} onClick={() => bench.change(side === "below" ? "Harmony below" : "Harmony above", (w) => ({ ...w, side }))}>
            {side === "below" ? "below the tune" : "above the tune"}
          </Button>
        ))}
      </Flex>
      {worst.length > 0 && (
        <Block title="Bars that rub most">
          {worst.map(({ clash, bar }) => (
            <ChoiceRow key={bar} name={`bar ${analysis.places[bar]?.number}`} worth={clash / 100} note={String(clash)} onTake={() => { const index = line.notes.findIndex((n) => n.bar === bar && n.pitch); if (index >= 0) onSelect({ kind: "note", index }); }} />
          ))}
        </Block>
      )}
    </>
  );
}
