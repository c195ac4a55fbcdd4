"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { type CHANGES, type Evening, makeRoom, remediesOf } from "../../../core/ensemble";
import { barLabelAt } from "../../../core/score";
import { LineButton } from "../../controls/buttons";
import { counted } from "../../signs";
import { useBench } from "../state";

const KIND_WORDS: Readonly<Record<Misfit["kind"], (a: string, b: string) => string>> = {
  clash: (a, b) => `${a} and ${b} rub against each other.`,
  "held second": (a, b) => `${a} and ${b} hold a second.`,
  crowding: (a, b) => `${a} and ${b} crowd each other.`,
  mud: (a, b) => `${a} and ${b} blur, both low.`,
  buried: (a, b) => `${b} lies over the tune of ${a}.`,
};
/** Misfits that are told in words. */
const TOLD = 5;
/** Score of a pair from which its square is full. */
const FULL = 20;

/** Every pair of parts: the darker the square the more they do to each other; the worst bars in words. */
export function FitGrid({ evening }: { evening: Evening }) {
  const places = useBench((s) => s.derived.analysis.places);
  const setBar = useBench((s) => s.setBar);
  const { parts, fit } = evening;
  const name = (id: string) => parts.find((p) => p.id === id)?.learner.name ?? id;
  const score = (a: string, b: string) =>
    fit.worst.filter((w) => (w.a === a && w.b === b) || (w.a === b && w.b === a)).reduce((sum, w) => sum + w.score, 0);
  const initials = (full: string) =>
    full
      .split(" ")
      .map((w) => w[0])
      .join("");
  const before = useBefore(fit.total);
  const words = fit.worst.length === 0 ? "Everything sits well together." : `${counted(fit.total, "point")} in all`;
  return (
    <Box as="section" aria-label="How it fits" mt="20px">
      <Flex align="baseline" gap="12px" mb="6px" wrap="wrap">
        <Text fontFamily="heading" fontSize="18px" fontWeight="600">
          Where parts get in each other’s way
        </Text>
        <Text fontSize="14px" color="quiet" role="status">
          {words}
          {before !== null && `, ${before} before`}
        </Text>
      </Flex>
      {fit.worst.length > 0 && (
        <Flex gap="24px" wrap="wrap" align="flex-start">
          <Box
            display="grid"
            gridTemplateColumns={`28px repeat(${parts.length}, 20px)`}
            gap="2px"
            fontSize="11px"
            color="quiet"
            role="img"
            aria-label={fit.worst
              .map((w) => `bar ${barLabelAt(places, w.bar)}: ${name(w.a)} and ${name(w.b)}`)
              .join("; ")}
          >
            <span />
            {parts.map((p) => (
              <Box key={p.id} textAlign="center" title={p.learner.name}>
                {initials(p.learner.name)}
              </Box>
            ))}
            {parts.map((a, i) => [
              <Box key={a.id} title={a.learner.name}>
                {initials(a.learner.name)}
              </Box>,
              ...parts.map((b, k) => (
                <Box
                  key={`${a.id} ${b.id}`}
                  h="18px"
                  bg={k < i ? "madder" : "transparent"}
                  opacity={k < i ? Math.min(1, 0.06 + score(a.id, b.id) / FULL) : 1}
                  title={k < i ? `${a.learner.name} and ${b.learner.name}` : undefined}
                />
              )),
            ])}
          </Box>
          <Box flex="1" minW="220px">
            {fit.worst.slice(0, TOLD).map((w) => (
              <Flex key={`${w.bar} ${w.a} ${w.b} ${w.kind}`} gap="8px" py="3px" align="center" fontSize="14px">
                <LineButton size="xs" onClick={() => setBar(w.bar)}>
                  bar {barLabelAt(places, w.bar)}
                </LineButton>
                <Text flex="1">{KIND_WORDS[w.kind](name(w.a), name(w.b))}</Text>
                <Remedies evening={evening} misfit={w} />
              </Flex>
            ))}
          </Box>
        </Flex>
      )}
    </Box>
  );
}

/** The sum before the last change; null where there was no other. */
function useBefore(total: number): number | null {
  const [sums, setSums] = useState<{ now: number; before: number | null }>({ now: total, before: null });
  if (sums.now !== total) setSums({ now: total, before: sums.now });
  return sums.before;
}

type Misfit = Evening["fit"]["worst"][number];
const CHANGE_WORDS: Readonly<Record<(typeof CHANGES)[number], string>> = {
  rest: "rests",
  "another note": "another note",
  "octave higher": "an octave higher",
  "octave lower": "an octave lower",
  quieter: "quieter",
};

/** What helps, at one press: the stronger player makes room, never the tune. */
function Remedies({ evening, misfit }: { evening: Evening; misfit: Misfit }) {
  const change = useBench((s) => s.change);
  const setBar = useBench((s) => s.setBar);
  const places = useBench((s) => s.derived.analysis.places);
  const found = remediesOf(evening.parts, misfit);
  if (!found) return null;
  const { name } = found.part.learner;
  const bar = barLabelAt(places, misfit.bar);
  return (
    <Flex gap="4px" wrap="wrap" align="center">
      <Text fontSize="13px" color="quiet">
        {name.split(" ")[0]}:
      </Text>
      {found.changes.map((what) => (
        <LineButton
          key={what}
          size="xs"
          onClick={() => {
            setBar(misfit.bar);
            change(`${name} ${CHANGE_WORDS[what]} in bar ${bar}`, (w) => makeRoom(w, name, misfit.bar, what));
          }}
        >
          {CHANGE_WORDS[what]}
        </LineButton>
      ))}
    </Flex>
  );
}
