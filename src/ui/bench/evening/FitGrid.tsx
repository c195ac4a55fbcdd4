"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { type CHANGES, type Evening, makeRoom } from "../../../core/ensemble";
import { barLabelAt } from "../../../core/score";
import { LineButton } from "../../controls/buttons";
import { useBench } from "../state";

const KIND_WORDS: Readonly<Record<string, string>> = {
  clash: "rub against each other",
  "held second": "hold a second",
  crowding: "crowd each other",
  mud: "blur, both low",
  buried: "play the tune and over it",
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
  const words = fit.worst.length === 0 ? "Everything sits well together." : "Where parts get in each other’s way";
  return (
    <Box mt="16px">
      <Text fontSize="13px" color="quiet" mb="4px">
        {words}
      </Text>
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
                <Text flex="1">
                  {name(w.a)} and {name(w.b)} {KIND_WORDS[w.kind]}.
                </Text>
                <Remedies evening={evening} misfit={w} />
              </Flex>
            ))}
          </Box>
        </Flex>
      )}
    </Box>
  );
}

type Misfit = Evening["fit"]["worst"][number];

/** What helps, at one press: the one who plays more makes room, never the tune. It is heard at once. */
function Remedies({ evening, misfit }: { evening: Evening; misfit: Misfit }) {
  const change = useBench((s) => s.change);
  const setBar = useBench((s) => s.setBar);
  const places = useBench((s) => s.derived.analysis.places);
  const find = (id: string) => evening.parts.find((p) => p.id === id);
  const [a, b] = [find(misfit.a), find(misfit.b)];
  if (!a || !b) return null;
  const isTune = (role: string) => role === "melody" || role === "simple melody";
  const plays = (p: typeof a) => p.notes.filter((n) => n.bar === misfit.bar).length;
  const who = isTune(a.role) || (!isTune(b.role) && plays(b) > plays(a)) ? b : a;
  if (isTune(who.role)) return null;
  const first = who.learner.name.split(" ")[0];
  const bar = barLabelAt(places, misfit.bar);
  const take = (what: (typeof CHANGES)[number]) => {
    setBar(misfit.bar);
    change(`${who.learner.name} ${what} in bar ${bar}`, (w) => makeRoom(w, who.learner.name, misfit.bar, what));
  };
  const line = who.role === "low harmony" || who.role === "high harmony" || who.role === "counter-figure";
  return (
    <Flex gap="4px">
      <LineButton size="xs" onClick={() => take("rest")}>
        {first} rests
      </LineButton>
      {line && (
        <LineButton size="xs" onClick={() => take("octave lower")}>
          an octave lower
        </LineButton>
      )}
    </Flex>
  );
}
