"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { formsOf, stepsOf, takeForm, VERSIONS } from "../../../core/ensemble";
import { barLabelAt } from "../../../core/score";
import type { Bars, Rung, Single } from "../../../core/variation";
import { LineButton, LinkButton } from "../../controls/buttons";
import { useBench } from "../state";
import { Copies } from "./Copies";

/** Bars of a form that are heard, from the bar that is looked at. */
const HEARD = 4;

/** The tune from its barest form to its richest, step by step: how hard, how much of the tune, how it sounds. */
export function LadderFold() {
  const [open, setOpen] = useState(false);
  const rights = useBench((s) => s.work.tune.rights !== "unknown");
  return (
    <Box as="section" aria-label="Easier and richer" borderTop="1px solid" borderColor="cord" py="10px">
      <Text fontFamily="heading" fontSize="18px" fontWeight="600">
        The tune, easier and richer
      </Text>
      {VERSIONS.map((version) => (
        <Box key={version}>
          {rights && (
            <Text fontSize="14px" mt="6px">
              {version} version
            </Text>
          )}
          <Copies part={version} open={rights} name={`the ${version} version`} />
        </Box>
      ))}
      <LinkButton aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "fold away" : "step by step"}
      </LinkButton>
      {open && <Forms />}
    </Box>
  );
}

/** Forms of the tune, one above the other; then every step by itself. */
function Forms() {
  const work = useBench((s) => s.work);
  const derived = useBench((s) => s.derived);
  const instrument = derived.parts.find((p) => p.role === "melody")?.instrument;
  const rungs = useMemo(() => formsOf(work, derived), [work, derived]);
  const steps = useMemo(() => stepsOf(work, derived), [work, derived]);
  const missing = steps.filter((s) => s.taken === null);
  return (
    <>
      <Text fontSize="13px" color="quiet">
        On the {instrument}, at the tempo of the page. Each is taken after those nearer to the page.
      </Text>
      {rungs.map((rung) => (
        <Form key={rung.name} name={rung.name} bars={rung.bars} words={rungWords(rung)} hard={rung.difficulty} />
      ))}
      <Text fontFamily="heading" fontSize="16px" fontWeight="600" mt="14px">
        One step by itself
      </Text>
      {steps.map(({ name, says, taken }) =>
        taken ? <Form key={name} name={name} alone bars={taken.bars} words={`${says} ${stepWords(taken)}`} /> : null,
      )}
      {missing.length > 0 && (
        <Text fontSize="13px" color="quiet" mt="8px">
          Not here: {missing.map((s) => `${s.name} (wants ${s.needs})`).join("; ")}.
        </Text>
      )}
    </>
  );
}

const share = (kept: number) => (kept < 1 ? `, ${Math.round(kept * 100)} % of its beats are there` : "");
const rungWords = ({ says, difficulty, kept }: Rung) =>
  `${says} How hard: ${Math.round(difficulty)} of 100${share(kept)}.`;
function stepWords({ change, kept }: NonNullable<Single["taken"]>): string {
  const by = Math.round(change);
  if (by === 0) return `As hard as before${share(kept)}.`;
  return `${Math.abs(by)} points ${by > 0 ? "harder" : "easier"}${share(kept)}.`;
}

type FormProps = { name: string; bars: Bars; words: string; hard?: number; alone?: boolean };
/** One form: to hear, and to take into the tune, over the looped bars or all of it. */
function Form({ name, bars, words, hard, alone = false }: FormProps) {
  const places = useBench((s) => s.derived.analysis.places);
  const bar = useBench((s) => s.bar);
  const loop = useBench((s) => s.loop);
  const hear = useBench((s) => s.hear);
  const change = useBench((s) => s.change);
  const [from, to] = [loop?.from ?? 0, loop?.to ?? places.length - 1];
  const where = loop ? `bars ${barLabelAt(places, from)} to ${barLabelAt(places, to)}` : "the whole tune";
  const called = alone ? `${name} by itself` : name;
  return (
    <Flex as="section" aria-label={called} align="center" gap="8px" mt="8px">
      <Box flex="1" minW="0">
        <Text fontSize="14px" fontWeight="600">
          {name}
        </Text>
        <Text fontSize="13px" color="quiet">
          {words}
        </Text>
        {hard !== undefined && (
          <Box mt="3px" h="4px" bg="linen" borderRadius="2px">
            <Box h="4px" w={`${hard}%`} bg="woad" borderRadius="2px" />
          </Box>
        )}
      </Box>
      <LineButton
        size="xs"
        aria-label={`hear ${called}`}
        onClick={() => hear(bar, Math.min(bar + HEARD, places.length) - 1, { tune: bars })}
      >
        hear
      </LineButton>
      <LineButton
        size="xs"
        aria-label={`take ${called} into ${where}`}
        title={`Take it into ${where}; undo brings the page back`}
        onClick={() => change(`${called}, ${where}`, (w) => takeForm(w, bars, from, to))}
      >
        take
      </LineButton>
    </Flex>
  );
}
