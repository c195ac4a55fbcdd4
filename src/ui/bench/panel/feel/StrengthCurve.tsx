"use client";
import { Box } from "@chakra-ui/react";
import { Chart, Filler, LinearScale, LineController, LineElement, PointElement } from "chart.js";
import { useTheme } from "next-themes";
import { useEffect, useRef } from "react";
import { feltBpm } from "../../../../core/ensemble";
import { accentShare, feltTempo, type Groove, grooveTempo, PURPOSES, shaped } from "../../../../core/feel";
import { useBench } from "../../state";

Chart.register(Filler, LinearScale, LineController, LineElement, PointElement);

/** Tempos that are worked out for the curve. */
const POINTS = 40;
const HEIGHT = 68;

/** Percent of the dance's accents, and of its swing at its strongest, at a tempo of its own bar. */
function strengths(groove: Groove, bpm: number, strength: number) {
  const even = 1 / groove.parts;
  const swing = (b: number) => (shaped(groove, b).shares[0] ?? even) - even;
  const slowest = Math.abs(swing(1));
  return {
    accents: accentShare(groove, bpm) * strength,
    swing: slowest > 0 ? (Math.abs(swing(bpm)) / slowest) * strength : 0,
  };
}

/** Strength against tempo: accents grow and swing fades as the dance gets quicker; today's tempo is a bead. */
export function StrengthCurve({ groove, strength }: { groove: Groove; strength: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const tune = useBench((s) => s.work.tune);
  const percent = useBench((s) => s.percent);
  const { resolvedTheme } = useTheme();
  const now = grooveTempo(groove, tune.metre, feltBpm(tune, percent));
  const ranges = PURPOSES.flatMap((p) => groove.tempo[p] ?? []);
  const [low, high] = [Math.min(now, ...ranges), Math.max(now, ...ranges)];
  // biome-ignore lint/correctness/useExhaustiveDependencies: the theme changes what the colours are
  useEffect(() => {
    if (!canvas.current) return;
    const colour = (name: string) =>
      getComputedStyle(canvas.current as Element).getPropertyValue(`--chakra-colors-${name}`) || "#5E5248";
    const tempos = Array.from({ length: POINTS }, (_, i) => low + ((high - low) * i) / (POINTS - 1));
    const felt = (bpm: number) => feltTempo(groove, tune.metre, bpm);
    const line = (of: "accents" | "swing") =>
      tempos.map((bpm) => ({ x: felt(bpm), y: strengths(groove, bpm, strength)[of] }));
    const here = strengths(groove, now, strength);
    const chart = new Chart(canvas.current, {
      type: "line",
      data: {
        datasets: [
          { data: line("accents"), borderColor: colour("madder"), borderWidth: 2.5, pointRadius: 0 },
          { data: line("swing"), borderColor: colour("woad"), borderWidth: 2, borderDash: [5, 4], pointRadius: 0 },
          {
            data: [
              { x: felt(now), y: here.accents },
              { x: felt(now), y: here.swing },
            ],
            showLine: false,
            pointRadius: 5,
            pointBackgroundColor: colour("ink"),
            pointBorderColor: colour("fleece"),
          },
        ],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        scales: {
          x: {
            type: "linear",
            min: Math.floor(felt(low)),
            max: Math.ceil(felt(high)),
            grid: { display: false },
            ticks: { color: colour("quiet"), maxTicksLimit: 5, font: { size: 12 } },
          },
          y: { min: 0, max: 155, display: false },
        },
      },
    });
    return () => chart.destroy();
  }, [groove, strength, now, low, high, tune.metre, resolvedTheme]);
  const here = strengths(groove, now, strength);
  const felt = Math.round(feltTempo(groove, tune.metre, now));
  const [accents, swing] = [Math.round(here.accents), Math.round(here.swing)];
  const words = `At ${felt} beats a minute: ${accents} percent of the accents, ${swing} percent of the swing.`;
  return (
    <Box mt="8px">
      <Box h={`${HEIGHT}px`}>
        <canvas ref={canvas} role="img" aria-label={`Strength against tempo. ${words}`} />
      </Box>
      <Box fontSize="13px" color="quiet" lineHeight="17px">
        <Box as="span" color="madder" fontWeight="600">
          accents
        </Box>{" "}
        and{" "}
        <Box as="span" color="woad" fontWeight="600">
          swing
        </Box>{" "}
        against tempo; now {felt}
      </Box>
    </Box>
  );
}
