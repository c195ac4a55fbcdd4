"use client";
import { Button, Flex, RadioGroup, Text } from "@chakra-ui/react";
import { SCHOOLS } from "../../../core/harmony";
import type { Derived } from "../../../core/ensemble";
import type { Selection } from "../lenses";
import type { BenchState } from "../useBench";
import { Block, ChoiceRow, PanelHead } from "./parts";

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
