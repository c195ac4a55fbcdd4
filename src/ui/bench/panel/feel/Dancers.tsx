"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { changeGroove, feltBpm } from "../../../../core/ensemble";
import { bowUse, feltTempo, type Groove, PURPOSES, usualTempo } from "../../../../core/feel";
import { LineButton } from "../../../controls/buttons";
import { Tick } from "../../../controls/Tick";
import { useBench } from "../../state";
import { Fold } from "../parts";

const WIDTH = 270;
const ROW = 30;
const LEFT = 86;

/**
 * What tempo the dance is played at, by what it is for, with today's choice as a thread through the ranges; how the bow
 * shrinks with it; and the chord before the dance.
 */
export function Dancers({ groove }: { groove: Groove }) {
  const tune = useBench((s) => s.work.tune);
  const percent = useBench((s) => s.percent);
  const opening = useBench((s) => s.work.feel.opening === true);
  const setPercent = useBench((s) => s.setPercent);
  const change = useBench((s) => s.change);
  const now = feltBpm(tune, percent);
  const felt = (bpm: number) => feltTempo(groove, tune.metre, bpm);
  const rows = PURPOSES.flatMap((purpose) => {
    const range = groove.tempo[purpose];
    return range ? [{ purpose, low: felt(range[0]), high: felt(range[1]) }] : [];
  });
  const [least, most] = [Math.min(now, ...rows.map((r) => r.low)) - 4, Math.max(now, ...rows.map((r) => r.high)) + 4];
  const x = (bpm: number) => LEFT + ((bpm - least) / (most - least)) * (WIDTH - LEFT - 30);
  const words = rows.map((r) => `${r.purpose} ${Math.round(r.low)} to ${Math.round(r.high)}`).join(", ");
  return (
    <Fold title="For the dancers: tempos, bow, opening chord">
      <svg
        viewBox={`0 0 ${WIDTH} ${rows.length * ROW + 18}`}
        width="100%"
        role="img"
        aria-label={`Felt beats a minute: ${words}. Now ${Math.round(now)}.`}
      >
        {rows.map(({ purpose, low, high }, i) => (
          <g key={purpose} fontSize="12" fill="var(--chakra-colors-quiet)">
            <text x={0} y={i * ROW + 18} fontSize="13" fill="var(--chakra-colors-ink)">
              {purpose}
            </text>
            <rect
              x={x(low)}
              y={i * ROW + 8}
              width={x(high) - x(low)}
              height={13}
              rx={3}
              fill={`var(--chakra-colors-${COLOURS[purpose]})`}
            />
            <text x={x(low) - 3} y={i * ROW + 19} textAnchor="end">
              {Math.round(low)}
            </text>
            <text x={x(high) + 3} y={i * ROW + 19}>
              {Math.round(high)}
            </text>
          </g>
        ))}
        <line x1={x(now)} x2={x(now)} y1={2} y2={rows.length * ROW} stroke="var(--chakra-colors-ink)" strokeWidth={2} />
        <text x={x(now)} y={rows.length * ROW + 14} textAnchor="middle" fontSize="12" fill="var(--chakra-colors-ink)">
          {Math.round(now)} now
        </text>
      </svg>
      <Flex gap="6px" wrap="wrap" mt="4px">
        {rows.map(({ purpose }) => {
          const usual = usualTempo(groove, tune.metre, purpose);
          return (
            <LineButton key={purpose} size="xs" onClick={() => setPercent((usual * 100) / feltBpm(tune))}>
              {purpose} {Math.round(usual)}
            </LineButton>
          );
        })}
      </Flex>
      <Text fontSize="14px" mt="8px">
        {bowUse(groove, tune.metre, now).words}
      </Text>
      <Tick
        on={opening}
        words="a chord of one bar first, for the dancers to bow"
        onTick={(on) => change(on ? "Opening chord" : "No opening chord", (w) => changeGroove(w, { opening: on }))}
      />
      <Box fontSize="13px" color="quiet" mt="6px">
        Ask the dancers, or their teacher, before any of this.
      </Box>
    </Fold>
  );
}
const COLOURS: Record<string, string> = { practice: "lichen", session: "woad", dancing: "madder" };
