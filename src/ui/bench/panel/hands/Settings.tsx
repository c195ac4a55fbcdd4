"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { changeHand, handFor, tuningsFor } from "../../../../core/ensemble";
import { type Instrument, LEVELS } from "../../../../core/instruments";
import { DOUBLINGS } from "../../../../core/technique";
import { LineButton } from "../../../controls/buttons";
import { ChoiceRow, Picker } from "../../../controls/Choice";
import { signed, signedText } from "../../../signs";
import { useBench } from "../../state";

/** For which level a hand plays, in which tuning, with which capo; how many double stops, and how they are heard. */
export function Settings({ on }: { on: Instrument }) {
  const hand = useBench((s) => handFor(s.work, on.name));
  const change = useBench((s) => s.change);
  const frets = (on.frets ?? []).filter((f) => /^\d+$/.test(f.label) && f.semitones <= (on.capo ?? 0));
  const doubling = DOUBLINGS.find((d) => d === hand.doubling) ?? "alternating";
  return (
    <>
      <Flex gap="6px" mt="6px" wrap="wrap">
        <Picker
          label="For which level"
          width="calc(50% - 3px)"
          of={[...LEVELS]}
          now={hand.level}
          onTake={(level) => change(`For ${level}`, (w) => changeHand(w, on.name, { level }))}
        />
        {on.tunings.length > 1 && (
          <Picker
            label="Tuning of the hand"
            width="calc(50% - 3px)"
            of={on.tunings.map((t) => ({ value: t.name, words: signed(t.name) }))}
            now={hand.tuning ?? on.tunings[0]?.name ?? ""}
            onTake={(tuning) => change(`Tuned ${tuning}`, (w) => changeHand(w, on.name, { tuning }))}
          />
        )}
        {on.capo && (
          <Picker
            label="Capo"
            width="calc(50% - 3px)"
            of={frets.map(({ label }) => ({ value: label, words: label === "0" ? "no capo" : `capo on ${label}` }))}
            now={String(hand.capo ?? 0)}
            onTake={(fret) => change(`Capo on ${fret}`, (w) => changeHand(w, on.name, { capo: Number(fret) }))}
          />
        )}
      </Flex>
      {hand.kind === "double stops" && (
        <Box mt="6px">
          <ChoiceRow
            label="Double stops"
            of={DOUBLINGS}
            now={doubling}
            onTake={(d) => change(`Double stops: ${d}`, (w) => changeHand(w, on.name, { doubling: d }))}
          />
          {on.family === "bowed" && <Heard />}
        </Box>
      )}
      {on.frets && <Tunings on={on} />}
    </>
  );
}

const HEARD = ["pure", "tempered"] as const;

/** Double stops as a good ear sets them, or as a piano has them. */
function Heard() {
  const pure = useBench((s) => s.pure);
  const setPure = useBench((s) => s.setPure);
  const bar = useBench((s) => s.bar);
  const hear = useBench((s) => s.hear);
  return (
    <Flex mt="6px" align="center" gap="8px" fontSize="14px">
      <Text color="quiet">Heard</Text>
      <Box flex="1">
        <ChoiceRow
          label="Intervals are heard"
          of={HEARD}
          now={pure ? "pure" : "tempered"}
          onTake={(how) => {
            setPure(how === "pure");
            hear(bar, bar);
          }}
        />
      </Box>
    </Flex>
  );
}

/** Ways to tune that are offered. */
const OFFERED = 3;

/** The tunings and capos the tune lies best in, with why; the key of the class is kept. */
function Tunings({ on }: { on: Instrument }) {
  const work = useBench((s) => s.work);
  const derived = useBench((s) => s.derived);
  const change = useBench((s) => s.change);
  const hand = handFor(work, on.name);
  const best = tuningsFor(work, derived, hand).slice(0, OFFERED);
  const tuning = hand.tuning ?? on.tunings[0]?.name;
  if (best.length < 2) return null;
  return (
    <Box mt="10px">
      <Text fontSize="13px" color="quiet">
        Where it lies best, in the key of the class
      </Text>
      {best.map((b) => {
        const now = b.tuning === tuning && b.capo === (hand.capo ?? 0);
        const name = `${signed(b.tuning)}${b.capo > 0 ? `, capo ${b.capo}` : ""}`;
        return (
          <Flex key={name} gap="8px" py="4px" borderTop="1px solid" borderColor="cord" align="flex-start">
            <LineButton
              size="xs"
              flexShrink={0}
              aria-pressed={now}
              onClick={() => change(`Tuned ${name}`, (w) => changeHand(w, on.name, { tuning: b.tuning, capo: b.capo }))}
            >
              {name}
            </LineButton>
            <Text fontSize="13px">{signedText(b.words)}</Text>
          </Flex>
        );
      })}
    </Box>
  );
}
